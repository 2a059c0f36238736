import { placesOf } from "../../state/store";
import { setWindow } from "../../state/actions";
import { knownOf } from "../drawing/geometry";
import type { Gesture, Ground, Point } from "./gesture";

/** How near a hand must be to the mark at a seam's top, in pixels. */
const [ASIDE, DOWN] = [6, 8];

/** Which of some places in the clip the hand is at the mark of; -1: none. */
export function markAt(g: Ground, p: Point, places: readonly number[]): number {
  if (!g.band.open || p.y > DOWN) return -1;
  const near = ASIDE * (g.slack / 4); // the ground's slack is four pixels
  const tick = g.tick(p.x);
  return places.findIndex((at) => Math.abs(at - tick) <= near);
}

interface Seam {
  /** How many rounds end at it, those before it counted. */
  rounds: number;
  tick: number;
}

/** The seam whose mark is under the hand; with no rounds before it, the lane's beginning. */
function seamAt(g: Ground, p: Point): Seam | null {
  const { view, lane } = g;
  if (view.clocked || view.free || !view.slots.length || !("window" in lane)) return null;
  const begins = knownOf(view).seams;
  const which = markAt(g, p, begins);
  return which < 0 ? null : { rounds: which, tick: begins[which]! };
}

/** Whether there is a seam to take hold of. */
export const overSeam = (g: Ground, p: Point): boolean => seamAt(g, p) !== null;

/** Drags a seam: the lane's window takes more steps or fewer. With Shift, and at the lane's beginning, the window is slid
 * along the steps. */
export function takeSeam(g: Ground, p: Point): Gesture | null {
  const seam = seamAt(g, p);
  if (!seam || !("window" in g.lane)) return null;
  const all = placesOf(g.lane);
  const { start, count } = g.lane.window ?? { start: 1, count: all };
  // A round that goes to and fro has more slots than steps.
  const share = g.view.active.filter(Boolean).length / Math.max(g.view.round, 1);
  let to = { start, count };
  return {
    heard: true,
    move: (now) => {
      const slots = (g.tick(now.x) - g.tick(p.x)) / g.view.stepTicks;
      to =
        now.shift || !seam.rounds
          ? { start: Math.min(Math.max(start + Math.round(slots), 1), all - count + 1), count }
          : {
              start,
              count: Math.min(Math.max(count + Math.round((slots * share) / seam.rounds), 1), all - start + 1),
            };
      return {};
    },
    end: () => {
      if (to.start !== start || to.count !== count) setWindow(g.lane.id, to);
    },
  };
}
