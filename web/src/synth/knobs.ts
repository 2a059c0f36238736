import type { Sound } from "../api/gen/piece.gen";
import type { Body } from "./bodies";
import { Glider } from "./parts/smooth";

/** The octave in Hz above which a cutoff of 0 lies, and how many octaves there are up to 100. */
const LOWEST = Math.log2(60);
const OCTAVES = 6.5;

/** How far an envelope of 100 opens the filter, in octaves. */
const OPENS = 4.5;

/** How far full pressure opens the filter, and how many values of controller 74 are an octave. */
const PRESSED = 1.5;
const BRIGHTER = 24;

/** The damping of a filter without resonance, and how many halvings there are up to full resonance. */
export const DAMPED = 1.25;
const SHARPER = 3.4;

/** After how many seconds what a hand moves has gone most of its way, each of two times. */
const HAND = 0.006;

/** What all notes of a lane share while they sound, as it stands after the samples that pass. */
export class Knobs {
  /** Where the filter rests, in octaves of Hz, for middle C's lower octave (48). */
  cut = 0;
  /** How far the envelope opens it, in octaves. */
  opens = 0;
  /** 0..1, as hands and controller 71 have it. */
  resonance = 0;
  /** The damping of that. */
  damping = DAMPED;
  private damped = 0;
  /** The share of its period that a pulse is up. */
  width = 0.5;
  private readonly gliders: { cut: Glider; opens: Glider; resonance: Glider; width: Glider; touch: Glider };
  private brightness = 64;
  private pressure = 0;
  private sharper = 0;

  constructor(
    rate: number,
    private readonly body: Body,
  ) {
    const make = () => new Glider(0, HAND, rate);
    this.gliders = { cut: make(), opens: make(), resonance: make(), width: make(), touch: make() };
  }

  set(sound: Sound): void {
    const { cut, opens, resonance, width } = this.gliders;
    cut.to(LOWEST + (sound.cutoff / 100) * OCTAVES + this.body.bright);
    opens.to((sound.envelope / 100) * OPENS);
    resonance.to(sound.resonance / 100);
    width.to(sound.width / 100);
  }

  press(value: number): void {
    this.pressure = value;
    this.touch();
  }

  /** Takes a controller's value, and tells whether that is one of its own: resonance (71), brightness (74). */
  control(controller: number, value: number): boolean {
    if (controller === 74) this.brightness = value;
    else if (controller === 71) this.sharper = (value - 64) / 80;
    else return false;
    this.touch();
    return true;
  }

  private touch(): void {
    this.gliders.touch.to((this.brightness - 64) / BRIGHTER + (this.pressure / 127) * PRESSED);
  }

  settle(): void {
    for (const glider of Object.values(this.gliders)) glider.settle();
  }

  /** Lets n samples pass. */
  next(n: number): void {
    const { cut, opens, resonance, width, touch } = this.gliders;
    this.cut = cut.next(n) + touch.next(n);
    this.opens = opens.next(n);
    this.resonance = Math.min(Math.max(resonance.next(n) + this.sharper, 0), 1);
    this.width = width.next(n);
    if (this.resonance !== this.damped) {
      this.damped = this.resonance;
      this.damping = dampingOf(this.resonance);
    }
  }
}

/** The damping of a resonance of 0..1. */
export const dampingOf = (resonance: number): number => DAMPED * 2 ** (-SHARPER * resonance);
