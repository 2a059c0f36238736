import { create } from "zustand";
import { keep, recall } from "../../kept";
import { laneIn, useApp } from "../../state/store";
import { freeNotes, type FullNote } from "../../api/free";

/** What hands on free notes go by: nothing of it is part of the piece. The grid is remembered on
 * this machine. */
interface Hands {
  /** The rate of the grid; empty: none. */
  snap: string;
  setSnap: (snap: string) => void;
  /** The notes, or in a line the steps of it, that Alt stamps along its stroke; null: it paints. */
  motif: { lane: string; notes: FullNote[]; steps: number[] } | null;
  setMotif: (motif: Hands["motif"]) => void;
  /** What was framed last, and how long the frame was, in ticks: repeated, it begins again that much later. */
  framed: { lane: string; notes: readonly number[]; ticks: number } | null;
  setFramed: (framed: Hands["framed"]) => void;
  /** Stretched notes keep their distance from the grid. */
  feel: boolean;
  setFeel: (feel: boolean) => void;
}

const SNAP = "agrimony snap";

export const useHands = create<Hands>((set) => ({
  snap: recall(SNAP) ?? "1/16",
  setSnap: (snap) => {
    set({ snap });
    keep(SNAP, snap);
  },
  motif: null,
  setMotif: (motif) => set({ motif }),
  framed: null,
  setFramed: (framed) => set({ framed }),
  feel: false,
  setFeel: (feel) => set({ feel }),
}));

/** What a new note's length is where there is no grid, in ticks. */
const PLAIN = 240;

/** The grid in ticks; null: none. */
export function grid(): number | null {
  const { snap } = useHands.getState();
  return useApp.getState().words?.snaps.find((s) => s.rate === snap)?.ticks ?? null;
}

export const lengthOfNew = (): number => grid() ?? PLAIN;

/** A time on the grid: the line before it, or the nearest. */
export const before = (at: number): number => {
  const step = grid();
  return step ? Math.floor(at / step) * step : Math.round(at);
};
export const nearest = (at: number): number => {
  const step = grid();
  return step ? Math.round(at / step) * step : Math.round(at);
};

/** Selects the notes that were added last: those with the highest numbers, which they were given in
 * turn, or the lowest that were free. */
export function selectNewest(clip: string, lane: string, count: number, known?: ReadonlySet<number>): void {
  const app = useApp.getState();
  const own = laneIn(app, clip, lane);
  const notes = own ? (freeNotes(own) ?? []) : [];
  if (app.lane !== lane) return;
  const fresh = known
    ? notes.flatMap((n, i) => (known.has(n.number) ? [] : [i]))
    : notes
        .map((n, i) => [n.number, i] as const)
        .sort((a, b) => b[0] - a[0])
        .slice(0, count)
        .map(([, i]) => i);
  app.select(fresh, fresh[0]);
}
