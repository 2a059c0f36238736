import type { Sound } from "../api/gen/piece.gen";
import type { Body } from "./bodies";
import { Knobs } from "./knobs";
import { Smooth } from "./parts/smooth";
import { Wheel } from "./parts/wheel";
import type { Source, Struck } from "./source";
import { Tone } from "./tone";
import { Tones } from "./tones";

/** The most notes that are held at once; the oldest gives way. */
const MOST = 32;

/** Notes that sound together are each a little softer, so that a chord stays near a note: by so large a power of
 * how many are held. */
const TOGETHER = -0.2;

/**
 * A voice for several notes. It honours velocity, the wheel with its range, modulation (1), the pedal (64),
 * resonance (71), brightness (74), pressure, and the bend that each note has of its own. Portamento (5, 65)
 * is for single voices.
 */
export class Many implements Source {
  readonly spread = false;
  private readonly tones = new Tones();
  private readonly knobs: Knobs;
  private readonly wheel: Wheel;
  private readonly together: Smooth;
  private waiting: Tone[] = []; // ended while the pedal held them
  private pedal = false;
  /** Whether nothing has been worked out since it was silent. */
  private fresh = true;
  private sound: Sound | null = null;

  constructor(
    private readonly rate: number,
    private readonly body: Body,
  ) {
    this.knobs = new Knobs(rate, body);
    this.wheel = new Wheel(rate);
    this.together = Smooth.within(0.03, rate, 1);
  }

  set(sound: Sound): void {
    this.sound = sound;
    this.knobs.set(sound);
    this.tones.each((tone) => tone.set(sound));
  }

  strike(struck: Struck): void {
    const { sound, tones } = this;
    if (!sound) return;
    const alone = !tones.any;
    for (const old of tones.sounding.slice()) if (old.struck.midi === struck.midi) tones.release(old);
    if (tones.sounding.length >= MOST) tones.release(tones.sounding[0]!, true);
    tones.add(new Tone(this.rate, this.body, sound, struck));
    this.level();
    // Those that are struck at once from silence are as loud as they are to be from the first sample on.
    if (alone) this.fresh = true;
  }

  private level(): void {
    this.together.to(Math.max(this.tones.sounding.length, 1) ** TOGETHER);
  }

  private drop(tone: Tone): void {
    this.tones.release(tone);
    if (this.tones.sounding.length) this.level(); // what rings on alone stays as it is
  }

  let(struck: Struck): void {
    const tone = this.tones.sounding.find((t) => t.struck === struck);
    if (!tone) return;
    if (this.pedal) this.waiting.push(tone);
    else this.drop(tone);
  }

  silence(): void {
    for (const tone of this.tones.sounding.slice()) this.tones.release(tone);
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
    if (this.wheel.control(controller, value) || this.knobs.control(controller, value)) return;
    if (controller !== 64) return;
    this.pedal = value >= 64;
    if (!this.pedal) for (const tone of this.waiting.splice(0)) this.drop(tone);
  }

  render(out: Float32Array, _side: Float32Array, n: number): boolean {
    const { tones, together } = this;
    if (!tones.any) return false;
    if (this.fresh) together.settle();
    this.fresh = false;
    this.knobs.next(n);
    const bend = this.wheel.next(n);
    out.fill(0, 0, n);
    tones.render(this.knobs, (tone) => tone.struck.midi + bend, out, n);
    let share = together.value;
    const rise = (together.after(n) - share) / n;
    for (let i = 0; i < n; i++) out[i]! *= share += rise;
    tones.forget();
    return true;
  }
}
