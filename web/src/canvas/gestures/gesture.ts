import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import type { Band } from "../drawing/geometry";
import type { Picture } from "../drawing/picture";

/** What a gesture works on, as it was when it began. */
export interface Ground<L extends Lane = Lane> {
  clip: string;
  lane: L;
  view: LaneView;
  /** As it is now: rows may be scrolled meanwhile. */
  readonly band: Band;
  /** The tick under a place on the time axis. */
  tick: (x: number) => number;
  /** How many ticks a few pixels are. */
  slack: number;
  /** Lets pitches be heard, together. */
  sound: (pitches: readonly number[]) => void;
}

/** What a gesture shows while it goes on. */
export type Draft = Partial<Pick<Picture, "draft" | "stroke" | "edge" | "ghosts" | "pods">>;

export interface Point {
  x: number;
  y: number;
  shift: boolean;
  alt: boolean;
  /** Whether what is framed comes to what is selected already. */
  adds?: boolean;
}

/** A gesture under way: told of every move, and ended once. */
export interface Gesture {
  /** Whether it moves a note: beyond the edge of the ladder the rows come after it. */
  readonly lifts?: true | undefined;
  /** Whether what it would do, were it ended where it is, is heard while it goes on. */
  readonly heard?: boolean;
  move: (p: Point) => Draft;
  end: () => void;
}
