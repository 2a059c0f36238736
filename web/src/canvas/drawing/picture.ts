import type { Lane } from "../../api/gen/schema.gen";
import type { Harmony, Lane as LaneView } from "../../api/gen/view.gen";
import type { Band } from "./geometry";

/** What a band's picture depends on. */
export interface Picture<L extends Lane = Lane> {
  lane: L;
  view: LaneView;
  band: Band;
  hue: string;
  /** The chords whose tones are tinted; null: none. */
  harmony: Harmony | null;
  /** The onsets of another lane that handles snap to, in ticks. */
  stems: readonly number[];
  /** Pixels a tick, pixels scrolled, and the width of the time axis. */
  zoom: number;
  scroll: number;
  width: number;
  ticks: number;
  barTicks: number;
  beatTicks: number;
  selection: ReadonlySet<number>;
  cursor: number;
  ghosts: { step: number; pitch: number; at?: number; length?: number }[];
  hover: number;
  /** Rail values while they are being drawn: rail and step to value. */
  draft: { rail: number; values: ReadonlyMap<number, number> } | null;
  /** A freehand contour or a selection frame being drawn, in pixels. */
  stroke: { kind: "contour" | "frame"; points: [number, number][] } | null;
  /** A note's new end while its edge is dragged, in ticks. */
  edge: { note: number; end: number } | null;
  /** Free notes as a gesture would leave them, and those that are not drawn meanwhile. Many that move
   * together are given where they stood, and by how many ticks and rows they have moved. */
  pods: {
    shown: readonly Preview[];
    hidden: ReadonlySet<number>;
    moved?: { later: number; up: number };
  } | null;
}

/** A free note before it is one: where it is in the clip, in ticks, how long, and its pitch. */
export interface Preview {
  at: number;
  length: number;
  pitch: number;
}

export type Pen = CanvasRenderingContext2D;

/** The time axis of a picture. */
export interface Axis {
  x: (tick: number) => number;
  /** The ticks in sight. */
  from: number;
  to: number;
}
