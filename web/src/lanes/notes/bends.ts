import type { Point as BendPoint } from "../../api/gen/piece.gen";
import { yOf, type Band } from "../../canvas/drawing/geometry";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { facts } from "../../api/facts";
import { useApp } from "../../state/store";
import { token } from "../../theme";
import { freeNotes, setOp, type FullNote } from "../../api/free";
import { soundOf } from "./axis";
import type { NotesLane } from "./notes";

/** The bends of one selected note are shaped by three handles: where it begins to bend, how far it
 * goes, and how curved the way is. A fourth, at its beginning, is how long it glides into it. */
type Handle = "start" | "curve" | "end" | "glide";

interface Held {
  handle: Handle;
  at: number;
  pitch: number;
}

/** The one note that is selected, in a lane of one voice, with how it sounds. */
function chosen(lane: NotesLane, view: Ground["view"], selection: ReadonlySet<number> | readonly number[]) {
  const [only, more] = [...selection];
  if (only === undefined || more !== undefined || lane.voices !== "one") return null;
  const note = freeNotes(lane)?.[only];
  const sound = soundOf(view, only);
  return note && sound ? { place: only, note, sound } : null;
}

/** A bend as two points: from where on, and how far. */
function shapeOf(note: FullNote): { start: number; by: number; curve: number } {
  const last = note.bend.at(-1);
  const first = note.bend[0];
  return { start: first && note.bend.length > 1 ? first.at : 50, by: last?.by ?? 0, curve: last?.curve ?? 0 };
}

/** Where the handles of a note stand, in ticks and semitones. */
function handlesOf(c: NonNullable<ReturnType<typeof chosen>>): Held[] {
  const { note, sound } = c;
  const { start, by, curve } = shapeOf(note);
  const from = sound.at + (sound.length * start) / 100;
  const end = sound.at + sound.length;
  const half = by * (0.5 - curve / 250);
  const out: Held[] = [{ handle: "end", at: end, pitch: sound.pitch + by }];
  if (note.bend.length) {
    out.unshift(
      { handle: "curve", at: (from + end) / 2, pitch: sound.pitch + half },
      { handle: "start", at: from, pitch: sound.pitch },
    );
  }
  if (note.glide)
    out.push({ handle: "glide", at: sound.at + (note.length * note.glide.time) / 100, pitch: sound.pitch });
  return out;
}

/** The height of a pitch, beyond the rows too. */
const height = (band: Band, pitch: number): number => yOf(band, pitch);

export function drawHandles(pen: Pen, p: Picture<NotesLane>, { x }: Axis): void {
  const c = p.band.open ? chosen(p.lane, p.view, p.selection) : null;
  if (!c || p.pods) return;
  for (const h of handlesOf(c)) {
    pen.fillStyle = token("paper");
    pen.strokeStyle = token("ink");
    pen.lineWidth = 1.3;
    pen.beginPath();
    if (h.handle === "glide") pen.rect(x(h.at) - 3.5, height(p.band, h.pitch) - 3.5, 7, 7);
    else pen.arc(x(h.at), height(p.band, h.pitch), h.handle === "end" ? 4.5 : 3.5, 0, 2 * Math.PI);
    pen.fill();
    pen.stroke();
  }
}

/** The handle under a place; null: none. */
export function handleAt(g: Ground<NotesLane>, p: Point): Held | null {
  const { selection, lane } = useApp.getState();
  if (!g.band.open || lane !== g.lane.id) return null;
  const c = chosen(g.lane, g.view, selection);
  if (!c) return null;
  const tick = g.tick(p.x);
  return (
    handlesOf(c).find((h) => Math.abs(h.at - tick) <= g.slack * 1.8 && Math.abs(height(g.band, h.pitch) - p.y) <= 7) ??
    null
  );
}

const most = facts.step.notes.bend.fields.by.high;
const whole = (value: number, low: number, high: number) => Math.round(Math.min(Math.max(value, low), high));

/** Shapes a bend, or the glide into a note. */
export function shape(g: Ground<NotesLane>, p: Point, held: Held): Gesture | null {
  const c = chosen(g.lane, g.view, useApp.getState().selection);
  if (!c) return null;
  const { note, sound, place } = c;
  const was = shapeOf(note);
  let next = { ...was };
  let time = note.glide?.time ?? 0;
  let moved = false;
  const points = (): BendPoint[] =>
    next.by === 0
      ? []
      : [
          { at: next.start, by: 0, curve: 0 },
          { at: 100, by: next.by, curve: next.curve },
        ];
  const share = (x: number) => ((g.tick(x) - sound.at) / sound.length) * 100;
  return {
    heard: true,
    move: (now) => {
      moved ||= Math.abs(now.x - p.x) + Math.abs(now.y - p.y) > 2;
      const up = (p.y - now.y) / g.band.rowHeight;
      if (held.handle === "end") {
        next = { ...was, by: whole(was.by + semitones(g.band, held.pitch, up), -most, most) };
        g.sound([]);
      } else if (held.handle === "start") next = { ...was, start: whole(share(now.x), 0, 99) };
      else if (held.handle === "curve")
        next = { ...was, curve: whole(was.curve - Math.sign(was.by) * up * 25, -100, 100) };
      else time = whole(((g.tick(now.x) - sound.at) / note.length) * 100, 0, 400);
      const to = held.handle === "glide" ? sound.pitch : sound.pitch + next.by;
      return { stroke: { kind: "contour", points: way(g, p, held, now, to) } };
    },
    end: () => {
      if (!moved) return;
      const patch = held.handle === "glide" ? { glide: { ...note.glide, time } } : { bend: points() };
      void useApp.getState().edit([setOp(g.clip, g.lane, [place], patch)]);
    },
  };
}

/** A line from the handle to where it goes, while it is held. */
function way(g: Ground<NotesLane>, p: Point, held: Held, now: Point, to: number): [number, number][] {
  if (held.handle === "end")
    return [
      [p.x, p.y],
      [p.x, height(g.band, to)],
      [p.x + 10, height(g.band, to)],
    ];
  return [
    [p.x, p.y],
    [now.x, held.handle === "curve" ? now.y : p.y],
  ];
}

/** How many semitones so many rows up from a pitch are: an octave is as near as a step. */
function semitones(band: Band, pitch: number, rows: number): number {
  const all = band.rows;
  const at = all.findIndex((r) => r.pitch >= pitch);
  const from = at < 0 ? all.length - 1 : at;
  const to = Math.min(Math.max(from + Math.round(rows), 0), all.length - 1);
  return (all[to]?.pitch ?? pitch) - (all[from]?.pitch ?? pitch);
}
