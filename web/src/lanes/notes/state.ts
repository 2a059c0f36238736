import { create } from "zustand";
import { useApp } from "../../state/store";
import type { FullNote } from "../free";

/** What hands on free notes go by: nothing of it is part of the piece. The grid is remembered on
 * this machine. */
interface Hands {
  /** The rate of the grid; empty: none. */
  snap: string;
  setSnap: (snap: string) => void;
  /** The notes, or in a line the steps of it, that Alt stamps along its stroke; null: it paints. */
  motif: { lane: string; notes: FullNote[]; steps: number[] } | null;
  setMotif: (motif: Hands["motif"]) => void;
  /** Stretched notes keep their distance from the grid. */
  feel: boolean;
  setFeel: (feel: boolean) => void;
}

const SNAP = "agrimony snap";

function recall(): string {
  try {
    return window.localStorage.getItem(SNAP) ?? "1/16";
  } catch {
    return "1/16";
  }
}

export const useHands = create<Hands>((set) => ({
  snap: recall(),
  setSnap: (snap) => {
    set({ snap });
    try {
      window.localStorage.setItem(SNAP, snap);
    } catch {
      // Without storage it lasts as long as the page.
    }
  },
  motif: null,
  setMotif: (motif) => set({ motif }),
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
