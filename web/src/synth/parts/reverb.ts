/** How long its lines are, in seconds: no two have a common measure, so that no pitch rings out of them. */
const TIMES = [0.0297, 0.0371, 0.0411, 0.0437, 0.0533, 0.0617, 0.0683, 0.0797] as const;
const LINES = TIMES.length;

/** After how many seconds it has fallen by 60 dB, and above how many Hz it falls sooner. */
const FALLS = 1.6;
const DULL = 4500;

/** How long it waits, in seconds. */
const WAITS = 0.012;

/** Below how many Hz nothing goes in: low notes would blur. */
const CLEAR = 150;

/**
 * A small room: a network of delay lines, each of whose ends goes back into all by a reflection (Jot and Chaigne,
 * Digital delay networks for designing artificial reverberators, 1991).
 */
export class Reverb {
  private readonly lines: Float32Array[];
  private readonly gains: number[];
  private readonly places = new Int32Array(LINES);
  private readonly dull = new Float64Array(LINES);
  private readonly waits: Float32Array;
  private waiting = 0;
  private low = 0;
  private readonly lows: number;
  private readonly highs: number;
  private readonly ends = new Float64Array(LINES);
  /** For how many samples something may still be heard. */
  private left = 0;

  constructor(private readonly rate: number) {
    this.lines = TIMES.map((s) => new Float32Array(Math.round(s * rate)));
    this.gains = TIMES.map((s) => 10 ** ((-3 * s) / FALLS));
    this.waits = new Float32Array(Math.round(WAITS * rate));
    this.lows = 1 - Math.exp((-2 * Math.PI * CLEAR) / rate);
    this.highs = 1 - Math.exp((-2 * Math.PI * DULL) / rate);
  }

  get awake(): boolean {
    return this.left > 0;
  }

  /** Adds what comes back of n samples; heard: whether any of them is more than nothing. */
  render(from: Float32Array, n: number, heard: boolean, left: Float32Array, right: Float32Array, at: number): void {
    if (heard) this.left = 2 * FALLS * this.rate;
    if (this.left <= 0) return;
    this.left -= n;
    const { lines, gains, places, dull, ends, waits } = this;
    for (let i = 0; i < n; i++) {
      const x = waits[this.waiting]!;
      waits[this.waiting] = heard ? from[i]! : 0;
      if (++this.waiting === waits.length) this.waiting = 0;
      this.low += (x - this.low) * this.lows;
      const into = (x - this.low) * 0.35;
      let sum = 0;
      for (let k = 0; k < LINES; k++) {
        dull[k]! += (lines[k]![places[k]!]! - dull[k]!) * this.highs;
        ends[k] = dull[k]! * gains[k]!;
        sum += ends[k]!;
      }
      sum *= 2 / LINES;
      let [l, r] = [0, 0];
      for (let k = 0; k < LINES; k++) {
        const line = lines[k]!;
        line[places[k]!] = into + ends[k]! - sum;
        if (++places[k]! === line.length) places[k] = 0;
        if (k % 2) r += ends[k]! * (k % 4 === 1 ? 1 : -1);
        else l += ends[k]! * (k % 4 === 0 ? 1 : -1);
      }
      left[at + i]! += l;
      right[at + i]! += r;
    }
  }
}
