import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { across, onRail, setStep } from "../../canvas/gestures/shared";
import { useApp } from "../../state/store";
import { rangeOf, valueAt } from "./band";
import type { ControlLane } from "./control";
import { CURVE } from "./draw";

type ControlGround = Ground<ControlLane>;

/** Begins the gesture that fits where the pointer went down: across the field it draws
 * values, with Shift along a straight line; with Alt it takes values away. */
export function begin(g: ControlGround, p: Point): Gesture | null {
  if (g.lane.follows) return null;
  const drawn = onRail(g, p);
  if (drawn !== undefined) return drawn;
  return p.y > g.band.ladderBottom + 4 ? null : drawValues(g, p);
}

/** The mouse pointer over a place. */
export function pointer(g: ControlGround): string {
  return g.lane.follows ? "default" : "crosshair";
}

/** Draws values across the steps. */
function drawValues(g: ControlGround, p: Point): Gesture {
  const range = rangeOf(g.lane);
  const { values, move, slot } = across(
    g,
    p,
    (y) => valueAt(g.band, range, y),
    () => true,
  );
  return {
    heard: true,
    move: (now) => {
      move(now);
      return { draft: { rail: CURVE, values: new Map(values) } };
    },
    end: () => {
      const app = useApp.getState();
      app.select([...values.keys()], g.view.slots[slot()]);
      void app.edit([...values].map(([step, value]) => setStep(g, step, p.alt ? { on: false } : { on: true, value })));
    },
  };
}
