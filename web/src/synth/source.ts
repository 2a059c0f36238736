import type { Sound } from "../api/gen/piece.gen";
import type { Slide } from "./protocol";

/** How many samples at most are worked out with one setting of filters and pitches. */
export const GRAIN = 32;

/** A note as it is struck. */
export interface Struck {
  midi: number;
  velocity: number;
  slides: readonly Slide[];
}

/** What makes the sound of a lane. Its notes are struck and let go at the sample that is worked out next. */
export interface Source {
  /** Takes the lane's settings. */
  set(sound: Sound): void;
  strike(note: Struck): void;
  /** Lets go of a note. */
  let(note: Struck): void;
  /** Lets go of all notes of a key. */
  lift(midi: number): void;
  /** Lets go of all. */
  silence(): void;
  /** Moves the wheel, -8192..8191. */
  bend(value: number): void;
  press(value: number): void;
  control(controller: number, value: number): void;
  /** Lets what goes to a value slowly be there at once: nothing sounds yet. */
  settle(): void;
  /** Writes the next n samples, at most GRAIN, and by how much the left is louder than the right to side, where
   * the source is spread; false: nothing sounds, and nothing was written. */
  render(out: Float32Array, side: Float32Array, n: number): boolean;
  /** How many notes sound. */
  readonly count: number;
  /** Lets as many notes as wanted give way, those first that have been let go; it reports how many did. */
  thin(wanted: number): number;
  /** Whether it writes to side. */
  readonly spread: boolean;
}

/** The velocity at which all voices are as loud as they are made. */
export const USUAL = 100;

/** How loud a velocity is beside the usual one; touch: how far it acts, 0..100. */
export const force = (velocity: number, touch: number): number => (velocity / USUAL) ** ((touch / 100) * 3);
