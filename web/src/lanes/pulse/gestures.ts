import { notesBetween, slotAt } from "../../canvas/drawing/geometry";
import { moveAside, upOrAside } from "../../canvas/gestures/aside";
import { dragEnd, onRail, frameSteps, nearEnd, setStep } from "../../canvas/gestures/shared";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { useApp } from "../../state/store";
import type { PulseLane } from "./pulse";
import { rails, VELOCITY } from "./rails";

type PulseGround = Ground<PulseLane>;

/** The hit under a place of the row; -1 without. */
function hitAt(g: PulseGround, p: Point): number {
  const tick = g.tick(p.x);
  let found = -1;
  notesBetween(g.view, tick, tick, (_, i) => (found = i));
  return found;
}

/** Begins the gesture that fits where the pointer went down: an empty place paints
 * hits, a hit is made louder or softer up and down, its end dragged is its gate. */
export function begin(g: PulseGround, p: Point): Gesture | null {
  const drawn = onRail(g, p);
  if (drawn !== undefined) return drawn;
  if (p.y > g.band.ladderBottom || g.view.slots.length === 0) return null;
  if (p.shift) return frameSteps(g, p);
  const hit = hitAt(g, p);
  const step = g.view.slots[slotAt(g.view, g.tick(p.x))]!;
  if (hit >= 0 && nearEnd(g, hit, g.tick(p.x))) return dragEnd(g, hit);
  return g.lane.steps[step]?.on ? dragVelocity(g, p, step) : paint(g, p);
}

/** The mouse pointer over a place. */
export function pointer(g: PulseGround, p: Point): string {
  const hit = hitAt(g, p);
  if (hit >= 0 && nearEnd(g, hit, g.tick(p.x))) return "ew-resize";
  return hit >= 0 && p.y <= g.band.ladderBottom ? "ns-resize" : "crosshair";
}

/** Puts hits where the pointer goes, one a slot. */
function paint(g: PulseGround, p: Point): Gesture {
  const pitch = g.view.ladder[0]?.pitch ?? 0;
  const put = new Set<number>();
  let last = slotAt(g.view, g.tick(p.x));
  const add = (slot: number) => put.add(g.view.slots[slot]!);
  add(last);
  g.sound([pitch]);
  const ghosts = () => [...put].map((step) => ({ step, pitch }));
  return {
    heard: true,
    move: (now) => {
      const slot = slotAt(g.view, g.tick(now.x));
      for (const way = slot > last ? 1 : -1; last !== slot; last += way) add(last + way);
      return { ghosts: ghosts() };
    },
    end: () => {
      const app = useApp.getState();
      app.select([...put], g.view.slots[last]);
      const steps = [...put].map((n) => n + 1);
      void app.edit(
        [{ op: "steps.set", clip: g.clip, lane: g.lane.id, steps, patch: { on: true } }],
        ghosts().map((ghost) => ({ lane: g.lane.id, ...ghost })),
      );
    },
  };
}

/** Selects a hit; up and down make it louder and softer, aside it goes to another step. */
function dragVelocity(g: PulseGround, p: Point, step: number): Gesture {
  const app = useApp.getState();
  if (!app.selection.includes(step)) app.select([step], step);
  const was = g.lane.steps[step]!.velocity;
  const { low, high } = rails[VELOCITY]!;
  let velocity = was;
  g.sound([g.view.ladder[0]?.pitch ?? 0]);
  const up: Gesture = {
    heard: true,
    move: (now) => {
      app.select([step], step);
      // A few pixels up or down are still a click.
      const moved = Math.abs(now.y - p.y) < 3 ? 0 : p.y - now.y;
      velocity = Math.min(Math.max(Math.round(was + moved * 2), low), high);
      return { draft: { rail: VELOCITY, values: new Map([[step, velocity]]) } };
    },
    end: () => {
      if (velocity !== was) void useApp.getState().edit([setStep(g, step, { velocity })]);
    },
  };
  const { pitch } = g.view.ladder[0] ?? { pitch: 0 };
  return upOrAside(
    p,
    up,
    moveAside(g, p, step, (to) => ({ ghosts: [{ step: to, pitch }] })),
    () => app.select([step], step),
  );
}
