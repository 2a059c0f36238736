import type { Sound } from "../api/gen/piece.gen";
import type { Body } from "./bodies";
import { Knobs } from "./knobs";
import { Wheel } from "./parts/wheel";
import type { Source, Struck } from "./source";
import { Tones } from "./tones";

/** The pedal, which holds what has ended (64). */
const PEDAL = 64;

/**
 * What voices of keys share, of one note at a time or of many. They honour velocity, the wheel with its range, modulation
 * (1), the pedal (64), resonance (71), brightness (74), pressure, and the bend that each note has of its own.
 */
export abstract class Keyed<Held> implements Source {
  readonly spread = false;
  protected readonly tones = new Tones();
  protected readonly knobs: Knobs;
  protected readonly wheel: Wheel;
  protected sound: Sound | null = null;
  private waiting: Held[] = []; // ended while the pedal held them
  private pedal = false;

  constructor(
    protected readonly rate: number,
    protected readonly body: Body,
  ) {
    this.knobs = new Knobs(rate, body);
    this.wheel = new Wheel(rate);
  }

  abstract strike(note: Struck): void;
  abstract let(note: Struck): void;
  abstract render(out: Float32Array, side: Float32Array, n: number): boolean;
  /** Lets go of what was held, whether the pedal is down or not. */
  protected abstract drop(held: readonly Held[]): void;
  /** All that is held. */
  protected abstract get all(): readonly Held[];
  /** The key of what is held. */
  protected abstract keyOf(held: Held): number;

  set(sound: Sound): void {
    this.sound = sound;
    this.knobs.set(sound);
    this.tones.each((tone) => tone.set(sound));
  }

  /** Ends what is held, now or once the pedal is let go. */
  protected end(held: Held): void {
    if (this.pedal) this.waiting.push(held);
    else this.drop([held]);
  }

  lift(midi: number): void {
    for (const held of this.all.slice()) if (this.keyOf(held) === midi) this.end(held);
  }

  silence(): void {
    this.drop([...this.all]);
    this.waiting = [];
  }

  get count(): number {
    return this.tones.count;
  }

  thin(wanted: number): number {
    return this.tones.thin(wanted);
  }

  settle(): void {
    this.wheel.settle();
    this.knobs.settle();
  }

  bend(value: number): void {
    this.wheel.bend(value);
  }

  press(value: number): void {
    this.knobs.press(value);
  }

  control(controller: number, value: number): void {
    if (this.wheel.control(controller, value) || this.knobs.control(controller, value) || controller !== PEDAL) return;
    this.pedal = value >= 64;
    if (!this.pedal) this.drop(this.waiting.splice(0));
  }
}
