import type { Sound } from "../api/gen/piece.gen";
import type { Slide } from "./protocol";

/** How many samples at most are worked out with one setting of filters and pitches. */
export const GRAIN = 16;

/** A note as it is struck. */
export interface Struck {
  midi: number;
  velocity: number;
  slides: readonly Slide[];
}

/** What makes the sound of a lane. Its notes are struck and let go at the sample that is worked out next. */
export interface Source {
  /** Takes the lane's settings, each 0..100. */
  set(sound: Sound): void;
  /** How loud it is at level 100. */
  readonly gain: number;
  strike(note: Struck): void;
  /** Lets go of a note. */
  let(note: Struck): void;
  /** Lets go of all. */
  silence(): void;
  /** Moves the wheel, -8192..8191. */
  bend(value: number): void;
  press(value: number): void;
  control(controller: number, value: number): void;
  /** Lets what goes to a value slowly be there at once: nothing sounds yet. */
  settle(): void;
  /** Writes the next n samples, at most GRAIN; false: nothing sounds, and nothing was written. */
  render(out: Float32Array, n: number): boolean;
}

/** How far full pressure opens the filters, in octaves. */
const PRESSED = 1.5;

/** What opens and sharpens a filter beside the lane's settings: brightness (74), resonance (71), pressure. */
export class Touch {
  private brightness = 64;
  private pressure = 0;
  /** The controller, from -64 to 63. */
  resonance = 0;
  private open = 0;

  press(value: number): void {
    this.pressure = value;
  }

  control(controller: number, value: number): boolean {
    if (controller === 74) this.brightness = value;
    else if (controller === 71) this.resonance = value - 64;
    else return false;
    return true;
  }

  private get target(): number {
    return (this.brightness - 64) / 24 + (this.pressure / 127) * PRESSED;
  }

  settle(): void {
    this.open = this.target;
  }

  /** By how much it multiplies a filter's frequency; one grain passes. */
  next(): number {
    this.open += (this.target - this.open) * 0.03;
    return 2 ** this.open;
  }
}
