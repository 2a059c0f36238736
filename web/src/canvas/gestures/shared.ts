import type { Cell } from "../../api/gen/piece.gen";
import type { Op } from "../../api/gen/schema.gen";
import type { Lane as LaneView, Note } from "../../api/gen/view.gen";
import { slotAt } from "../drawing/geometry";
import { railAt, railValue } from "../rails/draw";
import type { Rail } from "../rails/rail";
import { laneIn, stepsOf, useApp } from "../../state/store";
import { onStem } from "../../state/stems";
import type { Gesture, Ground, Point } from "./gesture";

/** A change of the fields of one step, from 0. */
export function setStep(g: Ground, step: number, patch: Record<string, unknown>): Op {
  return { op: "steps.set", clip: g.clip, lane: g.lane.id, steps: [step + 1], patch };
}

/** Values drawn across steps, each as the height says where the pointer went over it. */
interface Across {
  values: Map<number, number>;
  /** Goes on to a place; with Shift from the start in a straight line. */
  move: (now: Point) => void;
  /** The slot that the pointer is over. */
  slot: () => number;
}

/** Begins to draw values across the steps that may be drawn on. */
export function across(g: Ground, p: Point, valueAt: (y: number) => number, may: (step: number) => boolean): Across {
  const values = new Map<number, number>();
  const here = (q: Point) => ({ slot: slotAt(g.view, g.tick(q.x)), value: valueAt(q.y) });
  const start = here(p);
  let last = start;
  const between = (a: typeof start, b: typeof start) => {
    const span = Math.abs(b.slot - a.slot);
    for (let i = 0; i <= span; i++) {
      const share = span ? i / span : 1;
      const step = g.view.slots[a.slot + Math.sign(b.slot - a.slot) * i]!;
      if (may(step)) values.set(step, Math.round(a.value + (b.value - a.value) * share));
    }
  };
  between(start, start);
  return {
    values,
    move: (now) => {
      const at = here(now);
      if (now.shift) {
        values.clear();
        between(start, at);
      } else between(last, at);
      last = at;
    },
    slot: () => last.slot,
  };
}

/** The gesture that begins on a rail; undefined where none lies under the pointer. */
export function onRail(g: Ground, p: Point): Gesture | null | undefined {
  const r = railAt(g.band, p.y);
  const rail = g.band.rails[r];
  if (!rail) return undefined;
  return rail.patch ? drawOnRail(g, p, rail, rail.patch, r) : null;
}

/** Draws a rail's values across; with Shift, along a straight line. */
function drawOnRail(g: Ground, p: Point, rail: Rail, patch: NonNullable<Rail["patch"]>, r: number): Gesture {
  const steps: readonly Cell[] = stepsOf(g.lane);
  const { values, move } = across(
    g,
    p,
    (y) => railValue(g.band, rail, r, y),
    (step) => steps[step]?.on ?? false,
  );
  return {
    heard: true,
    move: (now) => {
      move(now);
      return { draft: { rail: r, values: new Map(values) } };
    },
    end: () => {
      const { edit } = useApp.getState();
      if (!values.size) return;
      void edit((now) => {
        const lane = laneIn(now, g.clip, g.lane.id);
        return [...values].flatMap(([step, value]) => {
          const there = lane && stepsOf(lane)[step];
          return there ? [setStep(g, step, patch(value, there))] : [];
        });
      });
    },
  };
}

/** Shift: extends the selection to a step, or frames a run of steps; with Ctrl beside those that are selected. */
export function frameSteps(g: Ground, p: Point): Gesture {
  const points: [number, number][] = [[p.x, p.y]];
  const first = slotAt(g.view, g.tick(p.x));
  let last = first;
  return {
    move: (now) => {
      points.push([now.x, now.y]);
      last = slotAt(g.view, g.tick(now.x));
      return { stroke: { kind: "frame", points: [...points] } };
    },
    end: () => {
      const app = useApp.getState();
      const step = g.view.slots[last]!;
      if (first === last) {
        const there = app.selection.includes(step);
        app.select(there ? app.selection.filter((n) => n !== step) : [...app.selection, step], step);
        return;
      }
      const framed = g.view.slots.slice(Math.min(first, last), Math.max(first, last) + 1);
      app.select(p.adds ? [...app.selection, ...framed] : framed, step);
    },
  };
}

/** Where the slot of a note begins: of those of its step in its round, the nearest. */
function slotOf(view: LaneView, note: Note): number {
  const begins = view.slotAt.filter((_, k) => view.slots[k] === note.step && view.rounds[k] === note.round);
  const away = (at: number) => Math.abs(at - note.at);
  return begins.reduce((best, at) => (away(at) < away(best) ? at : best), begins[0] ?? 0);
}

/** Drags a note's end: within its step that is the gate; past the step line it
 * ties on. The server works out which. */
export function dragEnd(g: Ground, index: number): Gesture | null {
  const note = g.view.notes[index];
  if (!note) return null;
  const start = slotOf(g.view, note);
  let end = note.at + note.length;
  useApp.getState().select([note.step], note.step);
  return {
    heard: true,
    move: (now) => {
      const tick = g.tick(now.x);
      end = Math.max(onStem(tick, g.slack * 2) ?? tick, note.at + g.view.stepTicks / 100);
      return { edge: { note: index, end } };
    },
    end: () => {
      if (Math.abs(end - note.at - note.length) < 1) return;
      const ticks = Math.round(end - start);
      const { edit } = useApp.getState();
      void edit([{ op: "step.drag", clip: g.clip, lane: g.lane.id, step: note.step + 1, from: start, ticks }]);
    },
  };
}

/** Whether a place is at a note's end, near enough to take hold of it. */
export function nearEnd(g: Ground, index: number, tick: number): boolean {
  const note = g.view.notes[index];
  return !!note && Math.abs(note.at + note.length - tick) <= Math.min(g.slack * 2, note.length * 0.3);
}
