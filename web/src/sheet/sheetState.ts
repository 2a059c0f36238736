import { create } from "zustand";

/** How the sheet is looked at: nothing of this is part of the piece. */
interface SheetState {
  /** Pixels a tick; 0 until the sheet knows its width. */
  zoom: number;
  /** Pixels scrolled to the right. */
  scroll: number;
  /** Width of the time axis on screen, in pixels. */
  width: number;
  /** Height left for the open lane when all others are closed, in pixels. */
  room: number;
  /** Rows shown beyond the notes of a lane: how many more below and above. */
  reach: Record<string, { low: number; high: number }>;
  set: (part: Partial<SheetState>) => void;
  extend: (lane: string, low: number, high: number) => void;
}

export const useSheet = create<SheetState>((set) => ({
  zoom: 0,
  scroll: 0,
  width: 0,
  room: 0,
  reach: {},
  set: (part) => set(part),
  extend: (lane, low, high) =>
    set((s) => {
      const now = s.reach[lane] ?? { low: 0, high: 0 };
      return { reach: { ...s.reach, [lane]: { low: Math.max(0, now.low + low), high: Math.max(0, now.high + high) } } };
    }),
}));

/** Where the note names stand, left of the time axis. */
export const GUTTER = 46;
/** The lane's header, left of its band. */
export const HEADER = 150;
