import type { Body } from "./bodies";
import { Keyed } from "./keyed";
import { Smooth } from "./parts/smooth";
import type { Struck } from "./source";
import { Tone } from "./tone";

/** The most notes that are held at once; the oldest gives way. */
const MOST = 32;

/** Notes that sound together are each a little softer, so that a chord stays near a note: by so large a power of
 * how many are held. */
const TOGETHER = -0.2;

/** A voice for several notes. Portamento (5, 65) is for single voices. */
export class Many extends Keyed<Tone> {
  private readonly together: Smooth;
  /** Whether nothing has been worked out since it was silent. */
  private fresh = true;

  constructor(rate: number, body: Body) {
    super(rate, body);
    this.together = Smooth.within(0.03, rate, 1);
  }

  strike(struck: Struck): void {
    const { sound, tones } = this;
    if (!sound) return;
    const alone = !tones.any;
    for (const old of tones.sounding.slice()) if (old.struck.midi === struck.midi) tones.release(old);
    if (tones.sounding.length >= MOST) tones.release(tones.sounding[0]!, true);
    tones.add(new Tone(this.rate, this.body, sound, struck));
    // Those that are struck at once from silence are as loud as they are to be from the first sample on.
    if (alone) this.fresh = true;
  }

  let(struck: Struck): void {
    const tone = this.tones.sounding.find((t) => t.struck === struck);
    if (tone) this.end(tone);
  }

  protected get all(): readonly Tone[] {
    return this.tones.sounding;
  }

  protected keyOf(tone: Tone): number {
    return tone.struck.midi;
  }

  protected drop(tones: readonly Tone[]): void {
    for (const tone of tones) this.tones.release(tone);
  }

  render(out: Float32Array, _side: Float32Array, n: number): boolean {
    const { tones, together } = this;
    if (!tones.any) return false;
    // What rings on alone stays as it is.
    if (tones.sounding.length) together.to(tones.sounding.length ** TOGETHER);
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
