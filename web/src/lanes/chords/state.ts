import { create } from "zustand";

/** How chords are worked on; nothing of this is part of the piece. */
interface ChordsState {
  /** The kind of chord that a degree gives. */
  kind: string;
  /** An edit is for the step alone, not for wherever its chord stands. */
  only: boolean;
  /** The lane whose chord line is to have the focus as soon as it is there. */
  line: string;
  set: (part: Partial<Pick<ChordsState, "kind" | "only" | "line">>) => void;
}

export const useChords = create<ChordsState>((set) => ({ kind: "triad", only: false, line: "", set }));
