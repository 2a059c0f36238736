import { create } from "zustand";

/** How notes are entered as if played; nothing of this is part of the piece. */
interface EnterState {
  open: boolean;
  /** What is played is written into the lane; else it is heard alone. */
  write: boolean;
  /** In time with the loop, or step by step. */
  inTime: boolean;
  countIn: boolean;
  /** The keyboard on screen has every semitone, not only the key's notes. */
  all: boolean;
  /** Notes are gathered until they are entered together. */
  together: boolean;
  /** What has been gathered for a chord, MIDI pitches. */
  gathered: readonly number[];
  /** By how many octaves the keyboard is moved. */
  octave: number;
  /** The keys of the computer's row that have notes, from the lowest up; MIDI pitches. */
  row: readonly number[];
  /** Where the next note goes in a lane of free notes, in ticks of its axis; null: after its notes. */
  next: number | null;
  set: (part: Partial<Omit<EnterState, "set">>) => void;
}

export const useEnter = create<EnterState>((set) => ({
  open: false,
  write: false,
  inTime: false,
  countIn: true,
  all: false,
  together: false,
  gathered: [],
  octave: 0,
  row: [],
  next: null,
  set: (part) => set(part),
}));
