import { Smooth } from "./smooth";

/** The longest that an echo takes to come back, in seconds: a half note at 20 beats a minute. */
export const LONGEST = 6;

/** Up to how much of it comes back each time. */
const MOST_BACK = 0.85;

/** Where its repeats are thinned at both ends, in Hz. */
const THIN_LOW = 180;
const THIN_HIGH = 4200;

/** How long it takes to go over to another time, in seconds. */
const TURN = 0.06;

/** What comes back of a voice, each time softer and thinner. */
export class Echo {
  private line: Float32Array | null = null;
  private place = 0;
  private readonly wet: Smooth;
  private readonly back: Smooth;
  private low = 0;
  private high = 0;
  private readonly lows: number;
  private readonly highs: number;
  /** After how many samples it comes back, what that was before, and how far it has gone over. */
  private time = 1;
  private was = 1;
  private over = 1;

  constructor(private readonly rate: number) {
    this.wet = Smooth.within(0.02, rate);
    this.back = Smooth.within(0.02, rate);
    this.lows = 1 - Math.exp((-2 * Math.PI * THIN_LOW) / rate);
    this.highs = 1 - Math.exp((-2 * Math.PI * THIN_HIGH) / rate);
  }

  settle(): void {
    this.wet.settle();
    this.back.settle();
    this.over = 1;
  }

  /** How much of it is heard and how much of that comes back, 0..1; after how many seconds. */
  set(wet: number, back: number, seconds: number): void {
    this.wet.to(wet);
    this.back.to(back * MOST_BACK);
    const time = Math.max(Math.round(Math.min(seconds, LONGEST) * this.rate), 1);
    if (time === this.time) return;
    this.was = this.time;
    this.time = time;
    this.over = this.line ? 0 : 1;
  }

  /** How long it goes on after what went in, in seconds. */
  get tail(): number {
    if (this.wet.still) return 0;
    const repeats = Math.log(1e-4) / Math.log(Math.max(this.back.value, 1e-4));
    return Math.min((repeats + 1) * (this.time / this.rate), 60);
  }

  /** The line, as long as it has to be at least. */
  private long(least: number): Float32Array {
    const { line, place } = this;
    if (line && line.length >= least) return line;
    const longer = new Float32Array(least);
    if (line) {
      longer.set(line.subarray(place)); // the oldest comes first
      longer.set(line.subarray(0, place), line.length - place);
      this.place = line.length;
    } else this.place = 0;
    this.line = longer;
    return longer;
  }

  render(out: Float32Array, n: number): void {
    if (this.wet.still) {
      this.line = null;
      return;
    }
    const line = this.long(Math.max(this.time, this.was) + 1);
    const step = 1 / (TURN * this.rate);
    const { lows, highs } = this;
    const turns = (wet: number) => (wet * Math.PI) / 2;
    let dry = Math.cos(turns(this.wet.value));
    let wet = Math.sin(turns(this.wet.value));
    this.wet.after(n);
    const dryStep = (Math.cos(turns(this.wet.value)) - dry) / n;
    const wetStep = (Math.sin(turns(this.wet.value)) - wet) / n;
    let feedback = this.back.value;
    const feedbackStep = (this.back.after(n) - feedback) / n;
    let { place, low, high, over } = this;
    const { length } = line;
    let from = (place - this.time + length) % length;
    let before = (place - this.was + length) % length;
    for (let i = 0; i < n; i++) {
      dry += dryStep;
      wet += wetStep;
      feedback += feedbackStep;
      let back = line[from]!;
      if (over < 1) {
        back = line[before]! * (1 - over) + back * over;
        over = Math.min(over + step, 1);
      }
      high += (back - high) * highs;
      low += (high - low) * lows;
      const thin = high - low;
      const x = out[i]!;
      line[place] = x + thin * feedback;
      out[i] = dry * x + wet * thin;
      if (++place === length) place = 0;
      if (++from === length) from = 0;
      if (++before === length) before = 0;
    }
    this.place = place;
    this.low = low;
    this.high = high;
    this.over = over;
  }
}
