import type { Op } from "../../api/gen/schema.gen";
import { nearestRung, noteAt, rungAt, slotAt } from "../../canvas/drawing/geometry";
import { moveAside, upOrAside } from "../../canvas/gestures/aside";
import { dragEnd, onRail, frameSteps, nearEnd, setStep } from "../../canvas/gestures/shared";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { facts } from "../../api/facts";
import { laneIn, useApp } from "../../state/store";
import type { PhraseLane } from "./phrase";

type PhraseGround = Ground<PhraseLane>;

/** Begins the gesture that fits where the pointer went down: on the strip of plays, on a
 * note, or on a free place. */
export function begin(g: PhraseGround, p: Point): Gesture | null {
  const drawn = onRail(g, p);
  if (drawn !== undefined) return drawn;
  if (p.shift) return frameSteps(g, p);
  const tick = g.tick(p.x);
  if (p.y < g.band.ladderTop) return turnPlay(g, tick);
  if (!rungAt(g.band, p.y)) return null;
  const note = noteAt(g.view, g.band, tick, p.y, g.slack);
  if (note < 0) return paint(g, p);
  return nearEnd(g, note, tick) ? dragEnd(g, note) : dragOffset(g, p, note);
}

/** The mouse pointer over a place. */
export function pointer(g: PhraseGround, p: Point, note: number): string {
  if (note < 0) return "pointer";
  return g.band.open && nearEnd(g, note, g.tick(p.x)) ? "ew-resize" : "ns-resize";
}

/** Goes on to the next play of the step under the pointer. */
function turnPlay(g: PhraseGround, tick: number): Gesture {
  const step = g.view.slots[slotAt(g.view, tick)]!;
  useApp.getState().select([step], step);
  return {
    move: () => ({}),
    end: () => {
      void useApp.getState().edit((now) => {
        const own = laneIn(now, g.clip, g.lane.id);
        const there = own?.kind === "phrase" ? own.steps[step] : undefined;
        if (!there) return [];
        const all: readonly string[] = facts.step.phrase.play.choices;
        const next = there.on ? all[(all.indexOf(there.play) + 1) % all.length] : there.play;
        return [setStep(g, step, { on: true, play: next })];
      });
    },
  };
}

/** Switches steps on, or off where the first was on, across the columns that the pointer
 * goes over: what they sound is the walk's. */
function paint(g: PhraseGround, p: Point): Gesture {
  const start = slotAt(g.view, g.tick(p.x));
  const on = !g.lane.steps[g.view.slots[start]!]?.on;
  const steps = new Set([g.view.slots[start]!]);
  let last = start;
  return {
    move: (now) => {
      const slot = slotAt(g.view, g.tick(now.x));
      const way = slot > last ? 1 : -1;
      for (let k = last; k !== slot; k += way) steps.add(g.view.slots[k + way]!);
      last = slot;
      return {};
    },
    end: () => {
      const chosen = [...steps];
      useApp.getState().select(chosen, chosen.at(-1));
      void useApp
        .getState()
        .edit([{ op: "steps.set", clip: g.clip, lane: g.lane.id, steps: chosen.map((n) => n + 1), patch: { on } }]);
    },
  };
}

/** Selects a note's step, and moves it along the scale, or aside; of several that are selected all go aside. */
function dragOffset(g: PhraseGround, p: Point, note: number): Gesture {
  const { step, pitch } = g.view.notes[note]!;
  const rows = g.view.ladder.filter((r) => r.inKey);
  const at = (y: number) => {
    const rung = nearestRung(g.band, y);
    return rows.findIndex((r) => r.pitch >= rung.pitch);
  };
  const start = at(p.y);
  let by = 0;
  const app = useApp.getState();
  if (!app.selection.includes(step)) app.select([step], step);
  g.sound([pitch]);
  const up: Gesture = {
    lifts: true,
    heard: true,
    move: (now) => {
      app.select([step], step);
      by = at(now.y) - start;
      return {};
    },
    end: () => {
      if (!by) return;
      const op: Op = {
        op: "steps.transpose",
        clip: g.clip,
        lane: g.lane.id,
        steps: [step + 1],
        unit: "degree",
        by,
      };
      void useApp.getState().edit([op]);
    },
  };
  return upOrAside(
    p,
    up,
    moveAside(g, p, step, (to) => ({ ghosts: [{ step: to, pitch }] })),
    () => app.select([step], step),
  );
}
