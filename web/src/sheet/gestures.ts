import type { Op } from "../api/gen/edit.gen";
import type { Lane as LaneDoc } from "../api/gen/piece.gen";
import type { Rung } from "../api/gen/pitch.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { useApp, type Ghost } from "../state/store";
import { railAt, railValue, type Picture } from "./draw";
import { nearestRung, noteAt, rungAt, slotAt, type Band } from "./geometry";
import { rails } from "./rails";

/** What a gesture works on, as it was when it began. */
export interface Ground {
  clip: string;
  lane: LaneDoc;
  view: LaneView;
  band: Band;
  /** Pixels to a tick on the time axis. */
  tick: (x: number) => number;
  /** How many ticks a few pixels are. */
  slack: number;
}

/** What a gesture shows while it goes on. */
export type Draft = Partial<Pick<Picture, "draft" | "stroke" | "edge" | "ghosts">>;

export interface Point {
  x: number;
  y: number;
  shift: boolean;
  alt: boolean;
}

/** A gesture under way: told of every move, and ended once. */
export interface Gesture {
  move: (p: Point) => Draft;
  end: () => void;
}

const place = (r: Rung) => ({ degree: r.degree, octave: r.octave, alter: r.alter });

/** Begins the gesture that fits where the pointer went down. Nothing is a mode:
 * the place decides, with Shift to select and Alt to draw a contour. */
export function begin(g: Ground, p: Point, sound: (pitch: number) => void): Gesture | null {
  const rail = railAt(g.band, p.y);
  if (rail) return drawRail(g, p, rail.rail);
  if (p.alt) return drawContour(g, p);
  const rung = rungAt(g.band, p.y);
  if (!rung) return null;
  const tick = g.tick(p.x);
  const note = noteAt(g.view, g.band, tick, p.y, g.slack);
  if (note >= 0 && !p.shift) {
    const [at, length] = g.view.notes[note];
    const nearEnd = Math.abs(at + length - tick) <= Math.min(g.slack * 2, length * 0.3);
    return nearEnd ? dragEdge(g, note) : dragPitch(g, p, tick, sound);
  }
  if (p.shift) return frame(g, p, tick);
  return paint(g, p, sound);
}

function op(g: Ground, steps: number[], patch: unknown): Op {
  return { op: "steps.set", clip: g.clip, lane: g.lane.id, steps: steps.map((n) => n + 1), patch };
}

/** Puts notes where the pointer goes, one a slot. */
function paint(g: Ground, p: Point, sound: (pitch: number) => void): Gesture {
  const put = new Map<number, Rung>();
  const draft = (): Draft => ({ ghosts: [...put].map(([step, r]) => ({ step, pitch: r.pitch })) });
  let lastSlot = slotAt(g.view, g.tick(p.x));
  const add = (slot: number, rung: Rung) => {
    const step = g.view.slots[slot];
    if (put.get(step)?.pitch !== rung.pitch) sound(rung.pitch);
    put.set(step, rung);
  };
  add(lastSlot, nearestRung(g.band, p.y));
  return {
    move: (now) => {
      const slot = slotAt(g.view, g.tick(now.x));
      const way = slot > lastSlot ? 1 : -1;
      for (let k = lastSlot; k !== slot; k += way) add(k + way, nearestRung(g.band, now.y));
      if (slot === lastSlot) add(slot, nearestRung(g.band, now.y));
      lastSlot = slot;
      return draft();
    },
    end: () => {
      const ghosts: Ghost[] = [...put].map(([step, r]) => ({ lane: g.lane.id, step, pitch: r.pitch }));
      const app = useApp.getState();
      app.select([...put.keys()], g.view.slots[lastSlot]);
      void app.edit([...put].map(([step, r]) => op(g, [step], { on: true, ...place(r) })), ghosts);
    },
  };
}

/** Selects the step under the pointer and moves it up and down. */
function dragPitch(g: Ground, p: Point, tick: number, sound: (pitch: number) => void): Gesture {
  const step = g.view.slots[slotAt(g.view, tick)];
  const app = useApp.getState();
  const chosen = g.lane.steps[step]?.on ? step : g.view.notes[noteAt(g.view, g.band, tick, p.y, g.slack)][4];
  if (!app.selection.includes(chosen) || app.selection.length > 1) app.select([chosen], chosen);
  let rung: Rung | undefined;
  const start = nearestRung(g.band, p.y).pitch;
  sound(g.view.pitches[chosen]);
  return {
    move: (now) => {
      const next = nearestRung(g.band, now.y);
      if (next.pitch === (rung?.pitch ?? start)) return rung ? { ghosts: [{ step: chosen, pitch: rung.pitch }] } : {};
      rung = next;
      sound(next.pitch);
      return { ghosts: [{ step: chosen, pitch: next.pitch }] };
    },
    end: () => {
      if (!rung || rung.pitch === g.view.pitches[chosen]) return;
      void useApp.getState().edit([op(g, [chosen], place(rung))], [{ lane: g.lane.id, step: chosen, pitch: rung.pitch }]);
    },
  };
}

/** Drags a note's end: within its step that is the gate; past the step line it
 * ties on, through rests, to where the pointer is. */
function dragEdge(g: Ground, note: number): Gesture {
  const [at, length, , , step] = g.view.notes[note];
  const size = g.view.stepTicks;
  const first = slotAt(g.view, at + 1);
  let end = at + length;
  useApp.getState().select([step], step);
  return {
    move: (now) => {
      end = Math.max(g.tick(now.x), at + size / 100);
      return { edge: { note, end } };
    },
    end: () => {
      if (Math.abs(end - at - length) < 1) return;
      const last = Math.max(first, Math.min(slotAt(g.view, end - 1), first + g.view.round - 1));
      const ops: Op[] = [];
      for (let k = first; k <= last; k++) {
        const index = g.view.slots[k];
        const onward = k < last;
        if (k > first && g.lane.steps[index].on) break;
        const share = Math.round(((end - k * size) / size) * 100);
        ops.push(op(g, [index], onward ? { tie: true } : { tie: false, gate: Math.min(Math.max(share, 1), 100) }));
      }
      void useApp.getState().edit(ops);
    },
  };
}

/** Draws a rail's values across; with Shift, along a straight line. */
function drawRail(g: Ground, p: Point, r: number): Gesture {
  const values = new Map<number, number>();
  const start = { slot: slotAt(g.view, g.tick(p.x)), value: railValue(g.band, r, p.y) };
  let last = start;
  const write = (slot: number, value: number) => {
    const step = g.view.slots[slot];
    if (g.lane.steps[step].on) values.set(step, value);
  };
  const between = (a: typeof start, b: typeof start) => {
    const span = Math.abs(b.slot - a.slot);
    for (let i = 0; i <= span; i++) {
      const share = span ? i / span : 1;
      write(a.slot + Math.sign(b.slot - a.slot) * i, Math.round(a.value + (b.value - a.value) * share));
    }
  };
  between(start, start);
  return {
    move: (now) => {
      const here = { slot: slotAt(g.view, g.tick(now.x)), value: railValue(g.band, r, now.y) };
      if (now.shift) {
        values.clear();
        between(start, here);
      } else between(last, here);
      last = here;
      return { draft: { rail: r, values: new Map(values) } };
    },
    end: () => {
      const ops = [...values].map(([step, value]) => op(g, [step], rails[r].patch(value, g.lane.steps[step])));
      if (ops.length) void useApp.getState().edit(ops);
    },
  };
}

/** Draws a contour freehand: the pitches of the steps it crosses follow it, and
 * the rhythm stays. */
function drawContour(g: Ground, p: Point): Gesture {
  const points: [number, number][] = [[p.x, p.y]];
  const rungs = new Map<number, Rung>();
  const add = (x: number, y: number) => rungs.set(g.view.slots[slotAt(g.view, g.tick(x))], nearestRung(g.band, y));
  add(p.x, p.y);
  return {
    move: (now) => {
      const [x, y] = points[points.length - 1];
      const pieces = Math.max(1, Math.ceil(Math.abs(now.x - x) / 4));
      for (let i = 1; i <= pieces; i++) add(x + ((now.x - x) * i) / pieces, y + ((now.y - y) * i) / pieces);
      points.push([now.x, now.y]);
      return { stroke: { kind: "contour", points: [...points] } };
    },
    end: () => {
      const steps = [...rungs.keys()];
      const app = useApp.getState();
      app.select(steps);
      void app.edit([
        { op: "fill.contour", clip: g.clip, lane: g.lane.id, steps: steps.map((n) => n + 1), places: steps.map((n) => place(rungs.get(n)!)) },
      ]);
    },
  };
}

/** Shift: extends the selection to a step, or frames a run of steps. */
function frame(g: Ground, p: Point, tick: number): Gesture {
  const points: [number, number][] = [[p.x, p.y]];
  const first = slotAt(g.view, tick);
  let last = first;
  return {
    move: (now) => {
      points.push([now.x, now.y]);
      last = slotAt(g.view, g.tick(now.x));
      return { stroke: { kind: "frame", points: [...points] } };
    },
    end: () => {
      const app = useApp.getState();
      if (first === last) {
        const step = g.view.slots[first];
        const there = app.selection.includes(step);
        app.select(there ? app.selection.filter((n) => n !== step) : [...app.selection, step], step);
        return;
      }
      const [low, high] = [Math.min(first, last), Math.max(first, last)];
      app.select(g.view.slots.slice(low, high + 1), g.view.slots[last]);
    },
  };
}
