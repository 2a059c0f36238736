import type { Sound } from "../api/gen/piece.gen";
import { pure, saw, Tables, triangle } from "./parts/wave";

/** What makes the tone of a voice: its own wave, the one that the lane chooses, or two operators of which one
 * moves the other's phase. */
export type Oscillator =
  { of: "chosen" } | { of: "own"; table: Tables } | { of: "operators"; ratio: number; index: number };

/** What tells one voice from another. Times are values of a sound and stand in the document. */
export interface Body {
  oscillator: Oscillator;
  /** How far two further oscillators stand above and below the first, in semitones, and how loud they are, as a
   * share of it; 0: there are none. They begin a quarter of a period off: what they do to the fundamental is the
   * same a moment above and below it, so that it never cancels. */
  apart: number;
  side: number;
  /** By how many octaves its filter is more open than a bass's. */
  bright: number;
  /** How much of the filter's opening stays while a note is held, as a share of what its level stays at. */
  stays: number;
  /** Whether the filter has four poles; else two. */
  steep: boolean;
  /** How hard its own bend drives it; 0: not at all. */
  bends: number;
  /** How loud it is at level 70, so that all voices are as loud. */
  gain: number;
}

const sums = (...partials: number[]): Tables => new Tables(partials, 1 / partials.reduce((sum, v) => sum + v, 0));

/** The voices of the document but for the kit. To add one, add a row here, in audio/voices.ts and in the document's list. */
export const bodies: Readonly<Record<string, Body>> = {
  bass: { oscillator: { of: "chosen" }, apart: 0, side: 0, bright: 0, stays: 0.2, steep: true, bends: 0, gain: 0.529 },
  sub: {
    oscillator: { of: "own", table: pure },
    apart: 0,
    side: 0,
    bright: 2,
    stays: 1,
    steep: false,
    bends: 1.6,
    gain: 0.358,
  },
  pluck: {
    oscillator: { of: "chosen" },
    apart: 0.09,
    side: 0.45,
    bright: 1,
    stays: 1,
    steep: true,
    bends: 0,
    gain: 0.783,
  },
  lead: {
    oscillator: { of: "chosen" },
    apart: 0.16,
    side: 0.6,
    bright: 2.4,
    stays: 0.7,
    steep: true,
    bends: 0,
    gain: 0.594,
  },
  bell: {
    oscillator: { of: "operators", ratio: 4, index: 1.3 },
    apart: 0,
    side: 0,
    bright: 4,
    stays: 1,
    steep: false,
    bends: 0,
    gain: 0.241,
  },
  keys: {
    oscillator: { of: "own", table: sums(1, 0.42, 0.16, 0.1, 0.05, 0.03) },
    apart: 0.05,
    side: 0.4,
    bright: 1.6,
    stays: 0.6,
    steep: false,
    bends: 0,
    gain: 0.502,
  },
  pad: {
    oscillator: { of: "own", table: sums(1, 0.6, 0.34, 0.3, 0.18, 0.14, 0.1, 0.07) },
    apart: 0.12,
    side: 0.6,
    bright: 1.6,
    stays: 1,
    steep: false,
    bends: 0,
    gain: 0.738,
  },
};

/** The waves that a lane chooses from. A pulse is made of two saws. */
export const waves: Readonly<Record<Sound["wave"], { table: Tables; pulse: boolean; gain: number }>> = {
  saw: { table: saw, pulse: false, gain: 0.6 },
  pulse: { table: saw, pulse: true, gain: 0.5 },
  triangle: { table: triangle, pulse: false, gain: 0.9 },
};
