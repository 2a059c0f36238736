import { stepFacts } from "../../api/facts";
import { laneIn, placesOf, stepsOf, useApp } from "../../state/store";
import { slotAt } from "../drawing/geometry";
import { onStem } from "../../state/stems";
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
  const onset = g.view.notes.find((n) => n.step === step && Math.abs(n.at - g.view.slotAt[begun]!) <= g.view.stepTicks);
  const stood = onset?.at ?? g.view.slotAt[begun]!;
  const range = stepFacts(g.lane.kind).nudge!;
  let [by, nudge, copies] = [0, 0, false];
  return {
    heard: true,
    move: (now) => {
      const later = g.tick(now.x) - g.tick(p.x);
      const stem = now.shift ? onStem(stood + later, g.slack * 2) : null;
      const away = (stem === null ? later : stem - stood) / g.view.stepTicks;
      const whole = Math.round(away);
      // By slots: a lane that plays backwards has its steps the other way round.
      const slot = Math.min(Math.max(begun + whole, 0), slots.length - 1);
      const count = stepsOf(g.lane).length;
      by = Math.min(Math.max(slots[slot]! - slots[begun]!, -chosen[0]!), count - 1 - chosen.at(-1)!);
      nudge = now.shift ? Math.min(Math.max(Math.round((away - whole) * 100), range.low), range.high) : 0;
      copies = now.alt;
      return shown(step + by);
    },
    end: () => {
      if (!by && !nudge) return;
      const { edit, select } = useApp.getState();
      void edit((now) => {
        const lane = laneIn(now, g.clip, g.lane.id);
        const steps = chosen.filter((n) => lane && n < placesOf(lane)).map((n) => n + 1);
        return steps.length
          ? [{ op: "steps.move", clip: g.clip, lane: g.lane.id, steps, by, nudge, copy: copies }]
          : [];
      }).then(
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
