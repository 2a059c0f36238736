import type { Sound } from "../api/gen/piece.gen";
import { Envelope } from "./parts/envelope";
import { Filter } from "./parts/filter";
import { hertzOf } from "./parts/pitch";
import { Path } from "./parts/slide";
import { rectangle, saw } from "./parts/wave";
import { Wheel } from "./parts/wheel";
import { Touch, type Source, type Struck } from "./source";

/** From which drive on, in %, what it adds lies so high that it has to be worked out more finely. */
const HARD = 30;

/** How far the two oscillators of a pluck stand apart, in semitones. */
const APART = 0.11;

/** The highest that velocity opens a filter at rest, in Hz. */
const HIGHEST = 9000;

/**
 * A single voice: an oscillator, for a pluck two a little apart, a resonant filter with an envelope,
 * and drive. It honours what a file holds: velocity, overlap (no new attack), bends with their range,
 * portamento (5, 65, 84), modulation (1), the pedal (64), resonance (71), brightness (74) and pressure.
 */
export class Mono implements Source {
  readonly gain = 0.7;
  private readonly amp: Envelope;
  private readonly opening: Envelope;
  private readonly first: Filter;
  private readonly second: Filter;
  private readonly wheel: Wheel;
  private readonly touch = new Touch();
  private held: Struck[] = [];
  private let_: Struck[] = []; // ended while the pedal held them
  private pedal = false;
  private path: Path;
  private pitch = 0; // where it stands, in MIDI numbers
  private target = 0;
  private glide = 0; // semitones a sample
  private portamento = { on: false, seconds: 0, from: -1 };
  private phases: [number, number] = [0, 0];
  private shape = saw;
  private loud = 0.6;
  private twin = false;
  private base = 300;
  private octaves = 3;
  private softer = 0;
  private low = 300;
  private high = 2400;
  private sharpness = 1;
  private bend_ = 0; // k of the drive's curve
  private dry = 1;
  private wet = 0;
  private hard = false;
  private before = 0;

  /** seconds: how long a value of controller 5 lets a portamento last. */
  constructor(
    private readonly rate: number,
    private readonly seconds: readonly number[],
  ) {
    this.amp = new Envelope(rate);
    this.opening = new Envelope(rate);
    this.first = new Filter(rate);
    this.second = new Filter(rate);
    this.wheel = new Wheel(rate);
    this.path = new Path([], rate);
  }

  set(sound: Sound): void {
    const pluck = sound.voice === "pluck";
    this.twin = pluck;
    this.shape = sound.wave === "saw" ? saw : rectangle;
    // Two together are no louder than one.
    this.loud = (sound.wave === "saw" ? 0.6 : 0.5) * (pluck ? 0.65 : 1);
    this.base = 60 * 2 ** ((sound.cutoff / 100) * 6.5);
    this.octaves = (sound.envelope / 100) * (pluck ? 5 : 4.5);
    this.softer = pluck ? 1.2 : 0;
    this.sharpness = 0.5 + (sound.resonance / 100) * 11;
    const decay = 0.06 + (sound.decay / 100) ** 2 * (pluck ? 1.6 : 1.1);
    Object.assign(this.opening, { decay, sustain: pluck ? 0 : 0.12, release: pluck ? 0.3 : 0.08 });
    Object.assign(this.amp, {
      decay: pluck ? decay * 1.6 : 0.4,
      sustain: pluck ? 0.02 : 0.72,
      release: pluck ? 0.3 : 0.045,
    });
    this.bend_ = (sound.drive / 100) * 80;
    const share = (Math.min(1, (sound.drive / 100) * 1.4) * Math.PI) / 2;
    this.dry = Math.cos(share);
    this.wet = Math.sin(share);
    this.hard = sound.drive > HARD;
  }

  strike(note: Struck): void {
    const { portamento } = this;
    const from = portamento.on && portamento.seconds > 0 ? (portamento.from >= 0 ? portamento.from : this.target) : 0;
    this.target = note.midi;
    this.pitch = from || note.midi;
    this.glide = from ? (note.midi - from) / (portamento.seconds * this.rate) : 0;
    portamento.from = -1;
    this.path = new Path(note.slides, this.rate);
    if (!this.held.length) {
      const force = note.velocity / 127;
      this.low = Math.min(this.base * 2 ** (this.softer * (force - 0.8)), HIGHEST);
      this.high = this.low * 2 ** (this.octaves * (0.45 + 0.55 * force));
      this.opening.strike(1);
      this.amp.strike(0.25 + 0.75 * force * force);
    }
    this.held.push(note);
  }

  let(note: Struck): void {
    if (this.pedal) this.let_.push(note);
    else this.drop([note]);
  }

  private drop(notes: readonly Struck[]): void {
    if (!this.held.length) return;
    this.held = this.held.filter((n) => !notes.includes(n));
    if (this.held.length) return;
    this.amp.let();
    this.opening.let();
  }

  silence(): void {
    this.drop([...this.held]);
    this.let_ = [];
  }

  settle(): void {
    this.wheel.settle();
    this.touch.settle();
  }

  bend(value: number): void {
    this.wheel.bend(value);
  }

  press(value: number): void {
    this.touch.press(value);
  }

  control(controller: number, value: number): void {
    if (this.wheel.control(controller, value) || this.touch.control(controller, value)) return;
    switch (controller) {
      case 5:
        this.portamento.seconds = this.seconds[value] ?? 0;
        break;
      case 64:
        this.pedal = value >= 64;
        if (!this.pedal) this.drop(this.let_.splice(0));
        break;
      case 65:
        this.portamento.on = value >= 64;
        break;
      case 84:
        this.portamento.from = value;
        break;
    }
  }

  /** The pitch in MIDI numbers; n samples pass. */
  private tuned(n: number): number {
    this.pitch += this.glide * n;
    if (this.glide && (this.target - this.pitch) * this.glide <= 0) {
      this.pitch = this.target;
      this.glide = 0;
    }
    return this.pitch + this.wheel.next(n) + this.path.next(n);
  }

  render(out: Float32Array, n: number): boolean {
    const { amp, first, second, shape, loud, twin, dry, wet, hard, bend_: k } = this;
    if (!this.held.length && amp.over) return false;
    const pitch = this.tuned(n);
    const step = hertzOf(pitch - (twin ? APART / 2 : 0), this.rate) / this.rate;
    const other = hertzOf(pitch + APART / 2, this.rate) / this.rate;
    const open = this.opening.skip(n);
    const hertz = (this.low + (this.high - this.low) * open) * this.touch.next();
    const sharp = Math.max(this.sharpness + this.touch.resonance / 8, 0.1);
    first.tune(hertz, sharp);
    second.tune(hertz, sharp);
    const bent = (x: number) => ((3 + k) * x * (Math.PI / 9)) / (Math.PI + k * Math.abs(x));
    let [p, q] = this.phases;
    let { before } = this;
    for (let i = 0; i < n; i++) {
      let x = shape(p, step);
      if ((p += step) >= 1) p -= 1;
      if (twin) {
        x += shape(q, other);
        if ((q += other) >= 1) q -= 1;
      }
      first.next(x * loud);
      second.next(first.low);
      x = second.low * amp.next();
      const drawn = hard ? (bent((x + before) / 2) + bent(x)) / 2 : bent(x);
      before = x;
      out[i] = dry * x + wet * drawn;
    }
    this.phases = [p, q];
    this.before = before;
    return true;
  }
}
