import type { Sound } from "../api/gen/piece.gen";
import type { Body } from "./bodies";
import { Knobs } from "./knobs";
import { Wheel } from "./parts/wheel";
import type { Source, Struck } from "./source";
import { Tone } from "./tone";
import { Tones } from "./tones";

/**
 * A voice of one note at a time. It honours what a file holds: velocity, overlap (no new attack), bends with
 * their range, portamento (5, 65, 84), modulation (1), the pedal (64), resonance (71), brightness (74) and pressure.
 */
export class Single implements Source {
  readonly spread = false;
  private readonly tones = new Tones();
  private readonly knobs: Knobs;
  private readonly wheel: Wheel;
  private sound: Sound | null = null;
  private tone: Tone | null = null; // what sounds of the keys that are held
  private keys: Struck[] = [];
  private waiting: Struck[] = []; // ended while the pedal held them
  private pedal = false;
  private pitch = 0; // where it stands, in MIDI numbers
  private target = 0;
  private glide = 0; // semitones a sample
  private portamento = { on: false, seconds: 0, from: -1 };

  /** seconds: how long a value of controller 5 lets a portamento last. */
  constructor(
    private readonly rate: number,
    private readonly body: Body,
    private readonly seconds: readonly number[],
  ) {
    this.knobs = new Knobs(rate, body);
    this.wheel = new Wheel(rate);
  }

  set(sound: Sound): void {
    this.sound = sound;
    this.knobs.set(sound);
    this.tones.each((tone) => tone.set(sound));
  }

  /** Where a note's pitch comes from; its own where it does not glide. */
  private origin(midi: number): number {
    const { on, seconds, from } = this.portamento;
    if (!on || seconds <= 0) return midi;
    // What is interrupted goes on from where it is.
    if (this.glide && (from < 0 || from === this.target)) return this.pitch;
    return from >= 0 ? from : this.target;
  }

  strike(note: Struck): void {
    const { sound, portamento } = this;
    if (!sound) return;
    this.pitch = this.origin(note.midi);
    this.target = note.midi;
    this.glide = this.pitch === note.midi ? 0 : (note.midi - this.pitch) / (portamento.seconds * this.rate);
    portamento.from = -1;
    if (this.keys.length && this.tone) this.tone.become(note);
    else {
      this.tones.clear();
      this.tone = new Tone(this.rate, this.body, sound, note);
      this.tones.add(this.tone);
    }
    this.keys.push(note);
  }

  let(note: Struck): void {
    if (this.pedal) this.waiting.push(note);
    else this.drop([note]);
  }

  private drop(notes: readonly Struck[]): void {
    if (!this.keys.length) return;
    this.keys = this.keys.filter((n) => !notes.includes(n));
    if (this.keys.length || !this.tone) return;
    this.tones.release(this.tone);
    this.tone = null;
  }

  silence(): void {
    this.drop([...this.keys]);
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
    switch (controller) {
      case 5:
        this.portamento.seconds = this.seconds[value] ?? 0;
        break;
      case 64:
        this.pedal = value >= 64;
        if (!this.pedal) this.drop(this.waiting.splice(0));
        break;
      case 65:
        this.portamento.on = value >= 64;
        break;
      case 84:
        this.portamento.from = value;
        break;
    }
  }

  render(out: Float32Array, _side: Float32Array, n: number): boolean {
    const { tones } = this;
    if (!tones.any) return false;
    this.pitch += this.glide * n;
    if (this.glide && (this.target - this.pitch) * this.glide <= 0) {
      this.pitch = this.target;
      this.glide = 0;
    }
    this.knobs.next(n);
    const bend = this.wheel.next(n);
    out.fill(0, 0, n);
    if (this.tone) this.tone.last = this.pitch;
    tones.render(this.knobs, (tone) => tone.last + bend, out, n);
    // What has died away while its key is held is struck anew by the next.
    if (tones.forget().length) this.tone = null;
    return true;
  }
}
