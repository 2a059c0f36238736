import type { HeldPiece } from "../api/held";
import type { Mend } from "../api/gen/render.gen";
import type { Lane, Op, Step } from "../api/gen/schema.gen";
import type { Shown, State, TakeRequest } from "../api/gen/server.gen";
import type { Clip as ClipView, Vocabulary } from "../api/gen/view.gen";
import type { Unsaved } from "./saving";
import type { Tried } from "./tried";

/** A note drawn before the server has answered: only where it was put. */
export interface Ghost {
  lane: string;
  step: number;
  pitch: number;
  /** Of a free note: where it is in the clip, in ticks, and how long. */
  at?: number;
  length?: number;
}

export type Panel =
  | "sketch"
  | "versions"
  | "intake"
  | "print"
  | "starters"
  | "paste"
  | "keys"
  | "ports"
  | "key"
  | "render"
  | "clip"
  | "bass"
  | null;

/** Ops, or what makes them of the state that they meet. */
export type Edit = Op[] | ((now: App) => Op[]);

/** The piece has moved on elsewhere. Edits wait, in order, until it is settled what
 * becomes of them. */
interface Conflict {
  newer: State;
  edits: Edit[];
}

export interface App {
  words: Vocabulary | null;
  id: string;
  version: number;
  undo: string;
  redo: string;
  /** What answers show, by which they know it, and the clips that are whole in it beside the one that is open. */
  shown: Shown | null;
  sum: string;
  also: readonly string[];
  piece: HeldPiece | null;
  view: ClipView | null;
  /** Why there is no view though there are clips; empty: there is one, or no clip. */
  trouble: string;
  clip: string;
  /** The lane that is worked on. */
  lane: string;
  /** What is selected in it: places, from 0, in the counting of its kind. */
  selection: number[];
  /** The end of the selection that the arrows move. */
  cursor: number;
  ghosts: Ghost[];
  saving: number;
  /** What was refused last. */
  error: string;
  /** What is to be said of the edit that was made last. */
  remark: string;
  /** Edits to choose from beside what was refused or remarked. */
  mends: readonly Mend[];
  /** The change that could not be kept yet; those after it wait. */
  unsaved: Unsaved | null;
  conflict: Conflict | null;
  /** What is tried: the piece and view are as it makes them. null: they are as they are kept. */
  tried: Tried | null;
  panel: Panel;
  /** What lies over the sheet where the window is too narrow to stand beside it. */
  drawer: "index" | "margin" | null;
  hover: { lane: string; note: number } | null;
  audition: boolean;
  /** Variants are listened to in an order that was drawn, under no names until it is told. */
  blind: { order: readonly string[]; told: boolean } | null;
  /** Another clip begins at the next bar line, where it plays; or else at once. */
  atBar: boolean;
  /** The name of the lane that was copied last; empty: none on this page. */
  laneCopied: string;
  clipboard: { kind: Lane["kind"]; steps: Step[] };

  take: (state: State, also?: readonly string[]) => void;
  /** Sends ops. Those that build on what is there are given as a function, which
   * is asked only when every edit before has been answered: otherwise a quick
   * second edit would send back what the first had changed. */
  edit: (edit: Edit, ghosts?: Ghost[]) => Promise<boolean>;
  /** Shows and lets hear what an edit would make, and keeps nothing. The newest takes the place of what is tried; an
   * edit that is made ends it. Under a name it is heard from the next bar on. The answer is why it cannot be tried. */
  attempt: (edit: Edit, name?: string) => Promise<string>;
  /** Puts back what is kept. */
  leave: () => void;
  /** Does what a hand will do when it lets go. Edits that this makes are tried, not made; where it makes none, what is
   * kept is shown again. */
  hold: (act: () => void) => void;
  /** Whether what happens is only tried: the hand that does it has not let go. */
  held: () => boolean;
  walk: (way: "undo" | "redo") => Promise<void>;
  /** Brings a MIDI file into the piece that is open, by one edit. */
  bring: (file: File, ask: TakeRequest) => Promise<boolean>;
  openClip: (id: string) => Promise<void>;
  /** Opens a clip of a piece, or leaves the piece that is open where none is named. Edits that are
   * under way come first. */
  goToPlace: (piece: string, clip: string) => Promise<void>;
  goTo: (lane: string) => void;
  select: (places: number[], cursor?: number) => void;
  set: (part: Partial<App>) => void;
  settle: (mine: boolean) => Promise<void>;
}

/** What is open where no piece is. */
export const nowhere = {
  id: "",
  version: 0,
  undo: "",
  redo: "",
  shown: null,
  sum: "",
  also: [],
  piece: null,
  view: null,
  trouble: "",
  clip: "",
  lane: "",
  selection: [],
  cursor: 0,
  ghosts: [],
  error: "",
  remark: "",
  mends: [],
  panel: null,
  drawer: null,
  hover: null,
  blind: null,
  tried: null,
} satisfies Partial<App>;
