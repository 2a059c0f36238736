import type { Cell, FreeNote, Glide, Point, Rounds } from "./gen/piece.gen";
import { facts, type Lane, type Op } from "./gen/schema.gen";

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

const fact = facts.step.notes;

/** What a free note has that does not state it, and what a step has that a free note lacks. */
const absent = {
  octave: fact.octave.initial,
  alter: fact.alter.initial,
  note: null,
  rounds: null,
  tie: fact.tie.initial,
  glide: null,
  bend: [],
  on: true,
  gate: 100,
  ratchet: 1,
  nudge: 0,
  skip: false,
} satisfies Partial<FullNote>;

type Holder = Extract<Lane, { notes: FreeNote[] }>;

/** Notes with every field stated, kept for as long as the notes are. */
const full = new WeakMap<FreeNote, FullNote>();
const fullLists = new WeakMap<FreeNote[], FullNote[]>();

function fullNote(note: FreeNote): FullNote {
  const known = full.get(note);
  if (known) return known;
  const made: FullNote = { ...absent, ...note };
  full.set(note, made);
  return made;
}

/** The free notes of a lane; null where it has steps, or none of its own. */
export function freeNotes(lane: Lane): FullNote[] | null {
  if (!("notes" in lane)) return null;
  const notes = (lane as Holder).notes ?? [];
  const known = fullLists.get(notes);
  if (known) return known;
  const made = notes.map(fullNote);
  fullLists.set(notes, made);
  return made;
}

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
