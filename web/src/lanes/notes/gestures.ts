import type { Rung } from "../../api/gen/pitch.gen";
import type { Op } from "../../api/gen/schema.gen";
import { nearestRung, noteAt, notesBetween, rungAt } from "../../canvas/drawing/geometry";
import type { Preview } from "../../canvas/drawing/picture";
import type { Draft, Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { railAt, railValue } from "../../canvas/rails/draw";
import { markAt } from "../../canvas/gestures/seams";
import { onStem } from "../../state/stems";
import { setLane } from "../../state/actions";
import type { Rail } from "../../canvas/rails/rail";
import { useApp } from "../../state/store";
import { freeNotes, type FullNote } from "../../api/free";
import { inClip, onAxis, within } from "./axis";
import { handleAt, takeHandle } from "../../canvas/gestures/bends";
import type { NotesLane } from "./notes";
import { before, grid, lengthOfNew, nearest, selectNewest, useHands } from "./state";
import { stretchBy } from "./stretching";
import { drawStrokeAlong } from "./stroke";

type NotesGround = Ground<NotesLane>;

const place = (r: Rung) => ({ degree: r.degree, octave: r.octave, alter: r.alter });

/** What a row of the ladder is to a new note: a place in the key, or where the key has none there,
 * and for drums, the pitch itself. */
function standing(lane: NotesLane, r: Rung): Record<string, unknown> {
  const drums = lane.sound.voice === "kit" || lane.channel === useApp.getState().words?.drumChannel;
  return drums || (!r.inKey && lane.lock !== "off") ? { note: r.pitch } : place(r);
}

/** Begins the gesture that fits where the pointer went down: the place decides, with Shift to frame
 * or stretch, and Alt to paint. */
export function begin(g: NotesGround, p: Point): Gesture | null {
  const r = railAt(g.band, p.y);
  const rail = g.band.rails[r];
  if (rail) return drawOnRail(g, p, rail, r);
  const seam = loopSeamAt(g, p);
  if (seam > 0) return dragLoop(g, seam);
  if (p.alt) return drawStrokeAlong(g, p);
  const held = takeHandle(g, p);
  if (held) return held;
  if (!rungAt(g.band, p.y)) return null;
  const tick = g.tick(p.x);
  const note = noteAt(g.view, g.band, tick, p.y, g.slack);
  const end = note < 0 ? null : endAt(g, note, tick);
  if (p.shift) return (end && stretchBy(g, p, note, end)) ?? box(g, p);
  if (note < 0) return create(g, p);
  return end ? dragEdge(g, p, note, end) : drag(g, p, note);
}

/** The seam of the loop whose mark is under the hand, counted from the clip's start; none, or the start itself: below 1. */
const loopSeamAt = (g: NotesGround, p: Point): number => markAt(g, p, g.view.free?.seams ?? []);

/** Makes the loop longer or shorter by the seam at its end, on the grid. */
function dragLoop(g: NotesGround, seam: number): Gesture | null {
  const free = g.view.free;
  if (!free) return null;
  const { start, length } = free;
  let next = length;
  return {
    heard: true,
    move: (now) => {
      next = Math.max(nearest(g.tick(now.x) / seam), grid() ?? 1);
      return {};
    },
    end: () => {
      if (next !== length) setLane(g.lane.id, { loop: { start, length: next } });
    },
  };
}

/** Which end of a note a place is at, near enough to take hold of it; null: neither. */
function endAt(g: NotesGround, index: number, tick: number): "start" | "end" | null {
  const note = g.view.notes[index];
  if (!note) return null;
  const near = Math.min(g.slack * 1.6, note.length * 0.3);
  if (Math.abs(note.at + note.length - tick) <= near) return "end";
  return Math.abs(note.at - tick) <= near * 0.6 ? "start" : null;
}

/** Where the pointer is on the axis of the lane that it is over. */
let pointed = 0;
export const pointerAt = (): number => pointed;

/** The mouse pointer over a place. */
export function pointer(g: NotesGround, p: Point, note: number): string {
  if (g.view.free) pointed = onAxis(g.view.free, g.tick(p.x));
  if (!g.band.open) return note < 0 ? "default" : "pointer";
  if (loopSeamAt(g, p) > 0) return "col-resize";
  if (handleAt(g, p)) return "move";
  if (note < 0) return "crosshair";
  return endAt(g, note, g.tick(p.x)) ? "ew-resize" : "pointer";
}

/** Puts a note on the grid; dragging on makes it longer. */
function create(g: NotesGround, p: Point): Gesture | null {
  const free = g.view.free;
  if (!free) return null;
  const rung = nearestRung(g.band, p.y);
  const stem = onStem(g.tick(p.x), g.slack * 2);
  const at = stem === null ? before(onAxis(free, g.tick(p.x))) : onAxis(free, stem);
  const shown = inClip(free, at, g.tick(p.x));
  let length = lengthOfNew();
  g.sound([rung.pitch]);
  const pods = (): Draft => ({ pods: { shown: [{ at: shown, length, pitch: rung.pitch }], hidden: none } });
  return {
    heard: true,
    move: (now) => {
      const step = grid() ?? 1;
      const far = onAxis(free, g.tick(now.x)) - at;
      if (Math.abs(now.x - p.x) > 4) length = Math.max(Math.ceil(far / step) * step, grid() ?? 1);
      return pods();
    },
    end: () => {
      const app = useApp.getState();
      const { clip, lane } = g;
      const fresh = { at, length, ...standing(lane, rung) };
      void app
        .edit(
          [{ op: "notes.add", clip, lane: lane.id, ladder: true, notes: [fresh] }],
          [{ lane: lane.id, step: -1, pitch: rung.pitch, at: shown, length }],
        )
        .then((made) => made && selectNewest(clip, lane.id, 1));
    },
  };
}

const none: ReadonlySet<number> = new Set();

/** From how many notes on a picture of them is moved, not each of them. */
const MANY = 400;

/** Moves what is selected, in time by the grid and in pitch by rows. */
function drag(g: NotesGround, p: Point, index: number): Gesture | null {
  const free = g.view.free;
  const note = g.view.notes[index];
  const notes = freeNotes(g.lane);
  if (!free || !note || !notes) return null;
  const app = useApp.getState();
  if (!app.selection.includes(note.step)) app.select([note.step], note.step);
  const chosen = useApp.getState().selection.filter((n) => notes[n]);
  const hidden = new Set(chosen);
  const rows = g.view.ladder;
  const rowOf = (pitch: number) =>
    Math.max(
      rows.findLastIndex((r) => r.pitch <= pitch),
      0,
    );
  const start = rowOf(nearestRung(g.band, p.y).pitch);
  const stood = chosen.map((n) => rowOf(free.rows[n] ?? 0));
  const from = g.tick(p.x);
  let [later, up] = [0, 0];
  g.sound([note.pitch]);
  const moved = (later: number, up: number): Preview[] =>
    chosen.flatMap((n, i) => {
      const own = notes[n]!;
      const row = rows[Math.min(Math.max(stood[i]! + up, 0), rows.length - 1)];
      return row ? [{ at: inClip(free, own.at + later, note.at), length: own.length, pitch: row.pitch }] : [];
    });
  const many = chosen.length > MANY ? moved(0, 0) : null;
  const preview = (): Draft => {
    if (!later && !up) return {};
    return { pods: many ? { shown: many, hidden, moved: { later, up } } : { shown: moved(later, up), hidden } };
  };
  return {
    lifts: true,
    heard: true,
    move: (now) => {
      const by = g.tick(now.x) - from;
      const stem = onStem(note.at + by, g.slack * 2);
      later = Math.abs(now.x - p.x) < 3 ? 0 : stem === null ? nearest(by) : stem - note.at;
      const next = rowOf(nearestRung(g.band, now.y).pitch) - start;
      if (next !== up) g.sound([rows[start + next]?.pitch ?? note.pitch]);
      up = next;
      return preview();
    },
    end: () => {
      if (!later && !up) return;
      const numbers = chosen.map((n) => notes[n]!.number);
      const to = rows[start + up];
      const single = chosen.length === 1 && up && to && !to.inKey;
      const on = { clip: g.clip, lane: g.lane.id, notes: numbers };
      const unit = g.lane.lock === "off" ? "semitone" : "degree";
      const by = up && to ? (unit === "degree" ? up : to.pitch - rows[start]!.pitch) : 0;
      const ops: Op[] = single
        ? [
            { op: "notes.move", ...on, later },
            { op: "notes.set", ...on, patch: standing(g.lane, to) },
          ]
        : [{ op: "notes.move", ...on, later, by, unit }];
      void useApp.getState().edit(ops);
    },
  };
}

/** Moves an end of the note, and of all that are selected with it by as much. */
function dragEdge(g: NotesGround, p: Point, index: number, end: "start" | "end"): Gesture | null {
  const free = g.view.free;
  const note = g.view.notes[index];
  const notes = freeNotes(g.lane);
  if (!free || !note || !notes?.[note.step]) return null;
  const app = useApp.getState();
  if (!app.selection.includes(note.step)) app.select([note.step], note.step);
  const chosen = useApp.getState().selection.filter((n) => notes[n]);
  const hidden = new Set(chosen);
  const own = notes[note.step]!;
  const edge = end === "end" ? own.at + own.length : own.at;
  let by = 0;
  const changed = (n: FullNote) =>
    end === "end"
      ? { at: n.at, length: Math.max(n.length + by, 1) }
      : { at: n.at + Math.min(by, n.length - 1), length: Math.max(n.length - by, 1) };
  return {
    heard: true,
    move: (now) => {
      const moved = g.tick(now.x) - g.tick(p.x);
      const shown = end === "end" ? note.at + own.length : note.at;
      const stem = onStem(shown + moved, g.slack * 2);
      const grid = stem === null ? nearest(edge + moved) - edge : stem - shown;
      by = Math.abs(now.x - p.x) < 3 ? 0 : Math.round(grid);
      if (!by) return {};
      const drawn = chosen.map((n): Preview => {
        const { at, length } = changed(notes[n]!);
        return { at: inClip(free, at, note.at), length, pitch: free.rows[n] ?? 60 };
      });
      return { pods: { shown: drawn, hidden } };
    },
    end: () => {
      if (!by) return;
      const { clip, lane } = g;
      const each = chosen.map((n) => ({ number: notes[n]!.number, ...changed(notes[n]!) }));
      void useApp.getState().edit([{ op: "notes.write", clip, lane: lane.id, notes: each }]);
    },
  };
}

/** Shift: frames notes, with Ctrl beside those that are selected, or adds one to the selection. */
function box(g: NotesGround, p: Point): Gesture {
  const points: [number, number][] = [[p.x, p.y]];
  return {
    move: (now) => {
      points[1] = [now.x, now.y];
      return { stroke: { kind: "frame", points: [points[0]!, points[1]] } };
    },
    end: () => {
      const app = useApp.getState();
      const [x, y] = points[1] ?? points[0]!;
      if (Math.abs(x - p.x) + Math.abs(y - p.y) < 4) {
        const note = g.view.notes[noteAt(g.view, g.band, g.tick(p.x), p.y, g.slack)];
        if (!note) return;
        const there = app.selection.includes(note.step);
        app.select(there ? app.selection.filter((n) => n !== note.step) : [...app.selection, note.step], note.step);
        return;
      }
      const [from, to] = [g.tick(Math.min(x, p.x)), g.tick(Math.max(x, p.x))];
      const [low, high] = [nearestRung(g.band, Math.max(y, p.y)), nearestRung(g.band, Math.min(y, p.y))];
      const found = within(g.view, from, to, low.pitch, high.pitch);
      app.select(p.adds ? [...app.selection, ...found] : found, found[0]);
      useHands.getState().setFramed(p.adds ? null : { lane: g.lane.id, notes: found, ticks: to - from });
    },
  };
}

/** Draws values on a rail across the notes that begin there; of several that are selected only on
 * those. */
function drawOnRail(g: NotesGround, p: Point, rail: Rail, r: number): Gesture | null {
  const free = g.view.free;
  const notes = freeNotes(g.lane);
  const { patch } = rail;
  if (!free || !notes || !patch) return null;
  const { selection, lane } = useApp.getState();
  const only = lane === g.lane.id && selection.length > 1 ? new Set(selection) : null;
  const values = new Map<number, number>();
  let last = p;
  const between = (a: Point, b: Point) => {
    const [from, to] = [g.tick(Math.min(a.x, b.x)) - g.slack, g.tick(Math.max(a.x, b.x)) + g.slack];
    notesBetween(g.view, from, to, (note) => {
      if (note.at < from || note.at > to || (only && !only.has(note.step))) return;
      const way = b.x === a.x ? 1 : Math.min(Math.max((note.at - g.tick(a.x)) / (g.tick(b.x) - g.tick(a.x)), 0), 1);
      values.set(note.step, railValue(g.band, rail, r, a.y + (b.y - a.y) * way));
    });
  };
  between(p, p);
  return {
    heard: true,
    move: (now) => {
      if (now.shift) {
        values.clear();
        between(p, now);
      } else between(last, now);
      last = now;
      return { draft: { rail: r, values: new Map(values) } };
    },
    end: () => {
      if (!values.size) return;
      const each = [...values].flatMap(([n, value]) =>
        notes[n] ? [{ number: notes[n].number, ...patch(value, notes[n]) }] : [],
      );
      void useApp.getState().edit([{ op: "notes.write", clip: g.clip, lane: g.lane.id, notes: each }]);
    },
  };
}
