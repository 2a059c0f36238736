/** Rounds the corner where a wave jumps, so that nothing folds back below half the sampling rate. */
function corner(phase: number, step: number): number {
  if (phase < step) {
    const t = phase / step;
    return t + t - t * t - 1;
  }
  if (phase > 1 - step) {
    const t = (phase - 1) / step;
    return t * t + t + t + 1;
  }
  return 0;
}

/** A saw that rises from -1 to 1; phase and step are shares of a period. */
export const saw = (phase: number, step: number): number => 2 * phase - 1 - corner(phase, step);

/** How much of its period a rectangle is up. */
const WIDTH = 0.35;

/** A rectangle about 0. */
export function rectangle(phase: number, step: number): number {
  const down = phase >= WIDTH ? phase - WIDTH : phase - WIDTH + 1;
  return (phase < WIDTH ? 1 : -1) + corner(phase, step) - corner(down, step) + 1 - 2 * WIDTH;
}

/** The samples of one period of a table. */
export const PERIOD = 2048;

const count = (partials: readonly number[], most: number): number => Math.max(Math.min(partials.length, most), 1);

/** The sum of partials as a table, with as many of them as lie below half the sampling rate. */
export class Tables {
  private readonly made = new Map<number, Float32Array>();
  private readonly peak: number;

  constructor(private readonly partials: readonly number[]) {
    this.peak = this.sum(partials.length).reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  }

  /** The table for a tone of so many Hz; it has one sample more than a period, for what lies between. */
  at(hertz: number, rate: number): Float32Array {
    const n = count(this.partials, Math.floor((0.5 * rate) / hertz));
    let table = this.made.get(n);
    if (!table) {
      table = Float32Array.from(this.sum(n), (v) => v / this.peak);
      this.made.set(n, table);
    }
    return table;
  }

  private sum(n: number): number[] {
    return Array.from({ length: PERIOD + 1 }, (_, i) => {
      let v = 0;
      for (let k = 0; k < n; k++) v += this.partials[k]! * Math.sin((2 * Math.PI * (k + 1) * i) / PERIOD);
      return v;
    });
  }
}

/** Noise that is the same each time a piece is heard. */
export class Noise {
  private state = 0x9e3779b9;

  /** -1..1. */
  next(): number {
    let x = this.state;
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    this.state = x;
    return x / 0x80000000;
  }
}
