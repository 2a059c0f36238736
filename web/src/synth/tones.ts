import type { Knobs } from "./knobs";
import type { Tone } from "./tone";

/** The most notes of a lane that sound on once they are let go; the oldest gives way. */
const RELEASED = 8;

/** How many held notes a lane keeps where too many sound in all. */
const KEPT = 1;

/** The notes of a lane that sound, those that are held and those that have been let go. */
export class Tones {
  private held: Tone[] = [];
  private released: Tone[] = [];

  get sounding(): readonly Tone[] {
    return this.held;
  }

  get any(): boolean {
    return this.held.length + this.released.length > 0;
  }

  add(tone: Tone): void {
    this.held.push(tone);
  }

  /** Lets go of a note that is held. at once: it gives way to another. */
  release(tone: Tone, atOnce = false): void {
    const place = this.held.indexOf(tone);
    if (place < 0) return;
    this.held.splice(place, 1);
    if (atOnce) tone.giveWay();
    else tone.let();
    this.released.push(tone);
    if (this.released.length > RELEASED) this.released[this.released.length - RELEASED - 1]!.giveWay();
  }

  /** Lets what has been let go give way to another note. */
  clear(): void {
    for (const tone of this.released) tone.giveWay();
  }

  /** How many sound, those aside that give way already. */
  get count(): number {
    return this.held.length + this.released.filter((tone) => !tone.going).length;
  }

  /** Lets as many as wanted give way, those first that have been let go, then the oldest that are held but for
   * some; it reports how many did. */
  thin(wanted: number): number {
    const ringing = this.released.filter((tone) => !tone.going).slice(0, wanted);
    for (const tone of ringing) tone.giveWay();
    const left = wanted - ringing.length;
    const oldest = this.held.slice(0, Math.min(left, Math.max(this.held.length - KEPT, 0)));
    for (const tone of oldest) this.release(tone, true);
    return ringing.length + oldest.length;
  }

  each(act: (tone: Tone) => void): void {
    this.held.forEach(act);
    this.released.forEach(act);
  }

  /** Adds n samples of all, each at its pitch in MIDI numbers. */
  render(knobs: Knobs, pitchOf: (tone: Tone) => number, out: Float32Array, n: number): void {
    for (const tone of this.held) tone.render(knobs, pitchOf(tone), out, n);
    if (!this.released.length) return;
    for (const tone of this.released) tone.render(knobs, pitchOf(tone), out, n);
    this.released = this.released.filter((tone) => !tone.over);
  }

  /** Forgets those that have died away while they were held. */
  forget(): Tone[] {
    const gone = this.held.filter((tone) => tone.over);
    if (gone.length) this.held = this.held.filter((tone) => !tone.over);
    return gone;
  }
}
