import type { ComponentType } from "react";
import type { Rung } from "../api/gen/pitch.gen";
import type { Lane } from "../api/gen/schema.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import type { Band } from "../canvas/drawing/geometry";
import type { Pen, Picture } from "../canvas/drawing/picture";
import type { Gesture, Ground, Point } from "../canvas/gestures/gesture";
import type { Key } from "../controls/key";

/** What a lane's margin, header and menus are given. */
export interface LaneProps<L extends Lane = Lane> {
  lane: L;
  view: LaneView;
}

/** The room that a band is given. */
export interface Room {
  open: boolean;
  /** Height of an open band, in pixels. */
  height: number;
  /** MIDI pitch of the lowest row that is shown; null: the kind chooses. */
  lowest: number | null;
}

/** How a kind of lane looks and handles: all that the sheet, the margin, the keys,
 * the index and the sound ask of it. */
export interface LaneKind<L extends Lane = Lane> {
  /** How menus call it. */
  title: string;
  /** What the margin says to do while nothing is selected. */
  hint: string;
  /** Its height when it is closed, and the least and most that it is given when it
   * is open, in pixels. */
  closed: number;
  least: (lane: L, view: LaneView) => number;
  most: number;
  /** Neighbours of a kind that stand together close up to a block. */
  block: boolean;
  /** Whether it can be edited while it is closed. */
  live: boolean;
  /** Where everything stands in a band. */
  band: (lane: L, view: LaneView, room: Room) => Band;
  /** Whether it may sound several notes at once. */
  many: boolean;
  /** Whether it has chords, which other lanes and clips may take: of themselves, or where a clip says so. */
  chords?: "always" | "asked";
  /** The lane that it acts on instead of sounding, and what it moves there. */
  acts?: (lane: L) => { on: string; what: string };
  /** Whether its steps do not play, because something else sets what it does. */
  still: (lane: L) => boolean;
  /** What stands above an open band, across the sheet, and its height in pixels. */
  Top: ComponentType<LaneProps<L>> | null;
  top: number;
  /** Whether a double click on a note makes its step a rest. */
  erases: boolean;
  /** The rows that can be scrolled to; empty when all are always there. */
  ladder: (view: LaneView) => readonly Rung[];
  /** Whether lines can be sketched for it, and not only varied. */
  sketches?: true;
  /** Loads what it is drawn and handled by, where that is not there from the start. */
  ready?: () => Promise<void>;
  draw: (pen: Pen, picture: Picture<L>) => void;
  /** The gesture that fits where the pointer goes down; null: none. */
  begin: (ground: Ground<L>, p: Point) => Gesture | null;
  /** The mouse pointer over a place. */
  pointer: (ground: Ground<L>, p: Point, note: number) => string;
  /** Its own fields in the header, in rows of a label and a control: those that are used daily,
   * and the others, which open. */
  Daily: ComponentType<LaneProps<L>>;
  Header: ComponentType<LaneProps<L>> | null;
  /** What to do with the first lane of its kind in a clip, where the first note would be. */
  first: string;
  /** Its own part of the fill menu. */
  Fills: ComponentType<LaneProps<L>>;
  /** What can be placed in the lane, shown whether something is selected or not. */
  Board: ComponentType<LaneProps<L>> | null;
  /** Exact numbers of what is selected. */
  Fields: ComponentType<LaneProps<L> & { selection: number[] }>;
  /** Tools for what is selected, beside those that all share; or with tools "own" all that there are. */
  Tools: ComponentType<LaneProps<L>>;
  tools?: "own";
  /** Ways to add such lanes, as buttons. */
  Add: ComponentType<{ disabled: boolean }>;
  /** Keys of its own, which hold while such a lane is worked on. */
  keys: Key[];
  /** Keys of its own that hold whatever lane is worked on. */
  anywhere: Key[];
  /** The place under the cursor in words, for those who hear the page. */
  speak: (lane: L, view: LaneView, place: number) => string;
  /** What a selected place is called: "C♯2", "rest". */
  nameOf: (lane: L, view: LaneView, place: number) => string;
}
