import { slotAt } from "../../drawing/geometry";
import type { Gesture, Ground, Point } from "../../gestures/gesture";
import { drawOnRail, setStep } from "../../gestures/shared";
import { railAt } from "../../rails/draw";
import { useApp } from "../../state/store";
import { rangeOf, valueAt } from "./band";
import type { ControlLane } from "./control";
import { CURVE } from "./draw";
import { rails } from "./rails";

type ControlGround = Ground<ControlLane>;

/** Begins the gesture that fits where the pointer went down: across the field it draws
 * values, with Shift along a straight line; with Alt it takes values away. */
export function begin(g: ControlGround, p: Point): Gesture | null {
  if (g.lane.follows) return null;
  const r = railAt(g.band, p.y);
  const rail = rails[r];
  if (rail) return drawOnRail(g, p, rail, r);
  return p.y > g.band.ladderBottom + 4 ? null : drawValues(g, p);
}

/** The mouse pointer over a place. */
export function pointer(g: ControlGround): string {
  return g.lane.follows ? "default" : "crosshair";
}

/** Draws values across the steps. */
function drawValues(g: ControlGround, p: Point): Gesture {
  const range = rangeOf(g.lane);
  const values = new Map<number, number>();
  const here = (q: Point) => ({ slot: slotAt(g.view, g.tick(q.x)), value: valueAt(g.band, range, q.y) });
  const start = here(p);
  let last = start;
  const between = (a: typeof start, b: typeof start) => {
    const span = Math.abs(b.slot - a.slot);
    for (let i = 0; i <= span; i++) {
      const step = g.view.slots[a.slot + Math.sign(b.slot - a.slot) * i]!;
      values.set(step, Math.round(a.value + (b.value - a.value) * (span ? i / span : 1)));
    }
  };
  between(start, start);
  return {
    move: (now) => {
      const at = here(now);
      if (now.shift) {
        values.clear();
        between(start, at);
      } else between(last, at);
      last = at;
      return { draft: { rail: CURVE, values: new Map(values) } };
    },
    end: () => {
      const app = useApp.getState();
      app.select([...values.keys()], g.view.slots[last.slot]);
      void app.edit([...values].map(([step, value]) => setStep(g, step, p.alt ? { on: false } : { on: true, value })));
    },
  };
}
