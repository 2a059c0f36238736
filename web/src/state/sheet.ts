import { create } from "zustand";
import { keep as keepHere, recall, recalled } from "../kept";

/** How one lane is looked at. */
export interface Look {
  open: boolean;
  /** Stays open when another lane is gone to. */
  held: boolean;
  /** Height of its band, dragged by hand, in pixels. */
  height: number | null;
  /** MIDI pitch of the ladder's lowest row. */
  lowest: number | null;
  /** The height of the band that the lowest row was chosen for, in pixels; null: it was scrolled there by hand. */
  chosenAt?: number | null;
}

const closed: Look = { open: false, held: false, height: null, lowest: null };

/** How the sheet is looked at: nothing of this is part of the piece. What is open
 * and how high is remembered for each clip on this machine. */
interface SheetState {
  /** The clip that the looks are of. */
  clip: string;
  looks: Readonly<Record<string, Look>>;
  /** The lanes that were opened last, the newest at the end. */
  earlier: readonly string[];
  /** Bars across the width of the time axis; 0 until the sheet knows its width. */
  bars: number;
  barTicks: number;
  /** Pixels scrolled to the right. */
  scroll: number;
  /** Width of the time axis and height of the lanes on screen, in pixels. */
  width: number;
  height: number;
  /** The place that the keys have gone to, or the note that they have moved there: it is brought
   * into sight. */
  follow: { lane: string; place: number; note: boolean } | null;
  /** The stretch of the clip that is looped, in ticks, for listening alone; null: all of it. */
  loop: { from: number; to: number } | null;
  /** The lane whose onsets handles snap to; empty: none. */
  against: string;
  /** The point of a bend that a hand had last: Delete takes it away. */
  point: { lane: string; place: number; point: number } | null;
  /** Lanes are only to be looked at: all of them closed. */
  reading: boolean;
  /** Lanes show all that they set, not only what is used daily; remembered on this machine. */
  settings: boolean;
  setSettings: (open: boolean) => void;
  set: (
    part: Partial<
      Pick<
        SheetState,
        "bars" | "barTicks" | "scroll" | "width" | "height" | "follow" | "reading" | "loop" | "against" | "point"
      >
    >,
  ) => void;
  /** Begins to look at a clip, as it was looked at last. */
  begin: (clip: string) => void;
  look: (lane: string, part: Partial<Look>) => void;
  /** Opens a lane, and closes those that are not held. */
  show: (lane: string) => void;
}

const remembered = (clip: string) => `agrimony sheet ${clip}`;

/** So many lanes that were opened are remembered. */
const REMEMBERED = 8;

const SETTINGS = "agrimony settings";

export const useSheet = create<SheetState>((set, get) => {
  const keep = (looks: SheetState["looks"]) => {
    set({ looks });
    keepHere(remembered(get().clip), JSON.stringify(looks));
  };
  return {
    clip: "",
    looks: {},
    earlier: [],
    bars: 0,
    barTicks: 1,
    scroll: 0,
    width: 0,
    height: 0,
    follow: null,
    loop: null,
    against: "",
    point: null,
    reading: false,
    settings: recall(SETTINGS) === "true",
    setSettings: (settings) => {
      set({ settings });
      keepHere(SETTINGS, String(settings));
    },
    set: (part) => set(part),
    begin: (clip) => {
      if (clip === get().clip) return;
      set({
        clip,
        looks: recalled<SheetState["looks"]>(remembered(clip), {}),
        bars: 0,
        scroll: 0,
        loop: null,
        against: "",
        earlier: [],
      });
    },
    look: (lane, part) => keep({ ...get().looks, [lane]: { ...(get().looks[lane] ?? closed), ...part } }),
    show: (lane) => {
      const looks = Object.entries(get().looks).map(
        ([id, look]) => [id, look.held ? look : { ...look, open: false }] as const,
      );
      keep({ ...Object.fromEntries(looks), [lane]: { ...lookOf(get(), lane), open: true } });
      set({ earlier: [...get().earlier.filter((id) => id !== lane), lane].slice(-REMEMBERED) });
    },
  };
});

export const lookOf = (s: SheetState, lane: string): Look => (s.reading ? closed : (s.looks[lane] ?? closed));

/** The lowest row of a lane's ladder in a band of a height; null: none is chosen yet. */
export const lowestOf = (look: Look, height: number): number | null =>
  look.chosenAt === undefined || look.chosenAt === null || look.chosenAt === height ? look.lowest : null;

/** Pixels a tick. */
export const zoomOf = (s: SheetState): number => (s.bars ? s.width / (s.bars * s.barTicks) : 0);

/** Whether fingers point, and not a mouse. */
const fingers = globalThis.matchMedia?.("(pointer: coarse)");

/** The width of the lanes' headers, left of their bands, in pixels. */
export const headerOf = (s: SheetState): number => (s.reading ? 120 : fingers?.matches ? 196 : 168);
