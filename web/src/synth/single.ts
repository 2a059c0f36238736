import type { Body } from "./bodies";
import { Keyed } from "./keyed";
import type { Struck } from "./source";
import { Tone } from "./tone";

/** A voice of one note at a time: what overlaps has no new attack. It honours portamento, too (5, 65, 84). */
export class Single extends Keyed<Struck> {
  private tone: Tone | null = null; // what sounds of the keys that are held
  private keys: Struck[] = [];
  private pitch = 0; // where it stands, in MIDI numbers
  private target = 0;
  private glide = 0; // semitones a sample
  private portamento = { on: false, seconds: 0, from: -1 };

  /** seconds: how long a value of controller 5 lets a portamento last. */
  constructor(
    rate: number,
    body: Body,
    private readonly seconds: readonly number[],
  ) {
    super(rate, body);
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
    this.end(note);
  }

  protected get all(): readonly Struck[] {
    return this.keys;
  }

  protected keyOf(note: Struck): number {
    return note.midi;
  }

  protected drop(notes: readonly Struck[]): void {
    if (!this.keys.length) return;
    this.keys = this.keys.filter((n) => !notes.includes(n));
    if (this.keys.length || !this.tone) return;
    this.tones.release(this.tone);
    this.tone = null;
  }

  override control(controller: number, value: number): void {
    if (controller === 5) this.portamento.seconds = this.seconds[value] ?? 0;
    else if (controller === 65) this.portamento.on = value >= 64;
    else if (controller === 84) this.portamento.from = value;
    else super.control(controller, value);
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
