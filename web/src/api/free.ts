import type { Cell, FreeNote, Glide, Point, Rounds } from "./gen/piece.gen";
import type { Lane, Op } from "./gen/schema.gen";

/** A free note with every field stated, as a step is: what all tools and fields ask of steps. */
export interface FullNote extends Cell {
  number: number;
  at: number;
  length: number;
  degree: number;
  octave: number;
  alter: number;
  note: number | null;
  rounds: Rounds | null;
  glide: Glide | null;
  bend: Point[];
}

/** What a free note has that does not state it; a step has more. */
const absent = {
  octave: 0,
  alter: 0,
  note: null,
  rounds: null,
  tie: false,
  glide: null,
  bend: [],
  on: true,
  gate: 100,
  ratchet: 1,
  nudge: 0,
  skip: false,
} satisfies Partial<FullNote>;

type Holder = Extract<Lane, { notes: FreeNote[] }>;

/** How a lane's free notes are sent: the numbers of each one after another, and by their places the
 * fields that few state. */
interface Columns {
  /** How many first and last notes are those that one holds already. */
  held: [number, number];
  columns: number[];
  more: Record<string, Partial<FullNote>>;
}

const WIDE = 5;

/** A lane with every field of its free notes stated, with what one holds of it; other lanes as they
 * are. */
export function filled(lane: Lane, was: Lane | undefined): Lane {
  if (!("notes" in lane) || Array.isArray(lane.notes)) return lane;
  const { held, columns, more } = lane.notes as unknown as Columns;
  const before = (was && freeNotes(was)) ?? [];
  const notes = Array.from({ length: columns.length / WIDE }, (_, i): FullNote => {
    const [number, at, length, degree, velocity] = columns.slice(i * WIDE, (i + 1) * WIDE) as [
      number,
      number,
      number,
      number,
      number,
    ];
    return { ...absent, chance: 100, number, at, length, degree, velocity, ...more[i] };
  });
  const all = [...before.slice(0, held[0]), ...notes, ...before.slice(before.length - held[1])];
  return { ...lane, notes: all as unknown as FreeNote[] };
}

/** The free notes of a lane; null where it has steps, or none of its own. */
export const freeNotes = (lane: Lane): FullNote[] | null =>
  "notes" in lane ? ((lane as Holder).notes as unknown as FullNote[]) : null;

/** What one of the places of a lane is called. */
export const placeWord = (lane: Lane): string => (freeNotes(lane) ? "note" : "step");

/** The numbers by which edits know free notes, of their places. */
const numbersOf = (notes: FullNote[], places: readonly number[]): number[] =>
  places.flatMap((n) => (notes[n] ? [notes[n].number] : []));

/** Changes fields of steps, or of free notes, by their places from 0. */
export function setOp(clip: string, lane: Lane, places: readonly number[], patch: Record<string, unknown>): Op {
  const notes = freeNotes(lane);
  if (notes) return { op: "notes.set", clip, lane: lane.id, notes: numbersOf(notes, places), patch };
  return { op: "steps.set", clip, lane: lane.id, steps: places.map((n) => n + 1), patch };
}

/** Makes steps rests, or takes free notes away. */
export function eraseOp(clip: string, lane: Lane, places: readonly number[]): Op {
  const notes = freeNotes(lane);
  if (notes) return { op: "notes.remove", clip, lane: lane.id, notes: numbersOf(notes, places) };
  return setOp(clip, lane, places, { on: false });
}

/** Moves steps, or free notes, in pitch. */
export function transposeOp(clip: string, lane: Lane, places: readonly number[], unit: string, by: number): Op {
  const notes = freeNotes(lane);
  if (notes) return { op: "notes.move", clip, lane: lane.id, notes: numbersOf(notes, places), by, unit };
  return { op: "steps.transpose", clip, lane: lane.id, steps: places.map((n) => n + 1), unit, by };
}

/** Turns steps, or free notes, back to front. */
export function reverseOp(clip: string, lane: Lane, places: readonly number[]): Op {
  const notes = freeNotes(lane);
  if (notes) return { op: "notes.reverse", clip, lane: lane.id, notes: numbersOf(notes, places) };
  return { op: "steps.reverse", clip, lane: lane.id, steps: places.map((n) => n + 1) };
}

/** The places that notes have now which had others before: what is selected stays with them. */
export function follow(before: Lane | undefined, now: Lane, places: readonly number[]): number[] {
  const [was, is] = [before && freeNotes(before), freeNotes(now)];
  if (!was || !is || was === is) return [...places];
  const at = new Map(is.map((n, i) => [n.number, i]));
  return places.flatMap((n) => at.get(was[n]?.number ?? -1) ?? []);
}
