import type { Cell } from "../../api/gen/piece.gen";
import type { Op, Step } from "../../api/gen/schema.gen";
import { stepFacts } from "../../api/facts";
import { laneIn, stepsOf, useApp } from "../../state/store";
import type { App } from "../../state/app";
import { slotAt } from "../drawing/geometry";
import type { Draft, Gesture, Ground, Point } from "./gesture";

/** How far a hand moves before it is known whether it goes up or aside, in pixels. */
const SURE = 6;

/** Goes on as one of two gestures: up and down, or aside. Until it is known which, nothing moves, and it is a click. */
export function upOrAside(p: Point, up: Gesture, aside: Gesture, click: () => void): Gesture {
  let way: Gesture | null = null;
  return {
    get lifts() {
      return way === up ? up.lifts : undefined;
    },
    get heard() {
      return way?.heard ?? false;
    },
    move: (now) => {
      const [x, y] = [Math.abs(now.x - p.x), Math.abs(now.y - p.y)];
      if (!way && Math.max(x, y) < SURE) return {};
      way ??= x > y ? aside : up;
      return way.move(now);
    },
    end: () => (way ? way.end() : click()),
  };
}

/** Moves steps to others: what stands there takes their places; with Alt they are copied. With Shift they are moved finer
 * than a step, too, by their nudge. Of several that are selected all move. */
export function moveAside(g: Ground, p: Point, step: number, shown: (to: number) => Draft): Gesture {
  const { selection } = useApp.getState();
  const chosen = selection.includes(step) ? selection : [step];
  const { slots } = g.view;
  const begun = slotAt(g.view, g.tick(p.x));
  let [by, nudge, copies] = [0, 0, false];
  return {
    heard: true,
    move: (now) => {
      const away = (g.tick(now.x) - g.tick(p.x)) / g.view.stepTicks;
      const whole = Math.round(away);
      // By slots: a lane that plays backwards has its steps the other way round.
      const slot = Math.min(Math.max(begun + whole, 0), slots.length - 1);
      const count = stepsOf(g.lane).length;
      by = Math.min(Math.max(slots[slot]! - slots[begun]!, -chosen[0]!), count - 1 - chosen.at(-1)!);
      nudge = now.shift ? Math.round((away - whole) * 100) : 0;
      copies = now.alt;
      return shown(step + by);
    },
    end: () => {
      if (!by && !nudge) return;
      const { edit, select } = useApp.getState();
      void edit((now) => arranged(now, g, chosen, by, nudge, copies)).then(
        (made) =>
          made &&
          select(
            chosen.map((n) => n + by),
            step + by,
          ),
      );
    },
  };
}

/** The edit that moves steps by so many. */
export function arranged(
  now: App,
  g: Ground,
  chosen: readonly number[],
  by: number,
  nudge: number,
  copies: boolean,
): Op[] {
  const lane = laneIn(now, g.clip, g.lane.id);
  const steps = lane ? stepsOf(lane) : [];
  const from = chosen.filter((n) => steps[n + by]);
  if (!lane || !from.length) return [];
  const range = stepFacts(lane.kind).nudge!;
  const to = from.map((n) => n + by);
  const next = new Map<number, Step>();
  if (!copies) {
    // What stands where they go takes the places that they leave, in turn.
    const left = from.filter((n) => !to.includes(n));
    const met = to.filter((n) => !from.includes(n));
    left.forEach((n, i) => next.set(n, steps[met[i]!]!));
  }
  from.forEach((n, i) => {
    const own = steps[n]! as Step & Cell;
    const moved = Math.min(Math.max(own.nudge + nudge, range.low), range.high);
    next.set(to[i]!, { ...own, nudge: moved });
  });
  const places = [...next.keys()].sort((a, b) => a - b);
  const content = places.map((n) => next.get(n)!);
  return [{ op: "steps.write", clip: g.clip, lane: lane.id, steps: places.map((n) => n + 1), content }];
}
