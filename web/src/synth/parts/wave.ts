/** The samples of one period of a table. */
export const PERIOD = 2048;

/** Tables of up to so many partials stand one by one; above, each has about a twelfth more. */
const DENSE = 32;
const STEP = 1.09;

const sine = Float64Array.from({ length: PERIOD }, (_, i) => Math.sin((2 * Math.PI * i) / PERIOD));

/** How many partials a table has, for each table. */
function counts(most: number): number[] {
  const out = Array.from({ length: Math.min(DENSE, most) }, (_, i) => i + 1);
  for (let n = DENSE * STEP; n < most; n *= STEP) out.push(Math.floor(n));
  if (most > DENSE) out.push(most);
  return out;
}

/**
 * The sum of partials as tables, each with as many of them as lie below half the sampling rate, so that nothing
 * folds back (band-limited wavetables).
 */
export class Tables {
  /** By how many partials may sound, the table of those. */
  private readonly tables: Float32Array[] = [];
  private readonly most: number;

  /** partials: their amplitudes from the fundamental up; what goes with each sample of the table is the sum of
   * their sines times gain. */
  constructor(partials: readonly number[], gain = 1) {
    this.most = partials.length;
    const sum = new Float64Array(PERIOD);
    let done = 0;
    for (const n of counts(partials.length)) {
      for (; done < n; done++) {
        const share = partials[done]! * gain;
        if (share) for (let i = 0; i < PERIOD; i++) sum[i]! += share * sine[((done + 1) * i) % PERIOD]!;
      }
      const table = new Float32Array(PERIOD + 1); // one more than a period, for what lies between
      table.set(sum);
      table[PERIOD] = table[0]!;
      const before = this.tables.length;
      for (let k = Math.max(before, 1); k < n; k++) this.tables[k] = this.tables[before - 1] ?? table;
      this.tables[n] = table;
    }
  }

  /** The table for a tone whose period is so many samples. */
  at(period: number): Float32Array {
    return this.tables[Math.min(Math.max(Math.floor(period / 2), 1), this.most)]!;
  }
}

/**
 * Adds n samples of a table from a phase on, in samples of the table, at a step that goes from one to another, and
 * gives back where the phase is then. later: less the same so much later in the period, which makes a pulse of a saw; 0: alone.
 */
export function add(
  into: Float64Array,
  table: Float32Array,
  phase: number,
  from: number,
  to: number,
  later: number,
  gain: number,
  n: number,
): number {
  const faster = (to - from) / n;
  let step = from;
  if (later <= 0) {
    for (let i = 0; i < n; i++) {
      const at = phase | 0;
      into[i]! += (table[at]! + (table[at + 1]! - table[at]!) * (phase - at)) * gain;
      phase += step += faster;
      if (phase >= PERIOD) phase -= PERIOD;
    }
    return phase;
  }
  for (let i = 0; i < n; i++) {
    const at = phase | 0;
    const other = phase + later < PERIOD ? phase + later : phase + later - PERIOD;
    const k = other | 0;
    const x = table[at]! + (table[at + 1]! - table[at]!) * (phase - at);
    into[i]! += (x - table[k]! - (table[k + 1]! - table[k]!) * (other - k)) * gain;
    phase += step += faster;
    if (phase >= PERIOD) phase -= PERIOD;
  }
  return phase;
}

/**
 * Adds n samples of a tone whose phase another one moves, by index at most, in periods over 2 pi (frequency
 * modulation: Chowning, 1973). phases: of the tone and of what moves it; the first goes on, the other is given back.
 */
export function moved(
  into: Float64Array,
  table: Float32Array,
  phases: number[],
  step: number,
  ratio: number,
  index: number,
  gain: number,
  n: number,
): number {
  let [phase, other] = phases as [number, number];
  const depth = (index * PERIOD) / (2 * Math.PI);
  for (let i = 0; i < n; i++) {
    const to = other | 0;
    let at = phase + (table[to]! + (table[to + 1]! - table[to]!) * (other - to)) * depth;
    at -= Math.floor(at / PERIOD) * PERIOD;
    const k = at | 0;
    into[i]! += (table[k]! + (table[k + 1]! - table[k]!) * (at - k)) * gain;
    phase += step;
    while (phase >= PERIOD) phase -= PERIOD;
    other += step * ratio;
    while (other >= PERIOD) other -= PERIOD;
  }
  phases[0] = phase;
  return other;
}

const MOST_PARTIALS = 512;
const series = (amplitude: (k: number) => number) => Array.from({ length: MOST_PARTIALS }, (_, i) => amplitude(i + 1));

/** A saw that falls from 1 to -1, a triangle from -1 to 1, and a sine. A pulse is a saw less the same saw later. */
export const saw = new Tables(series((k) => 2 / (Math.PI * k)));
export const triangle = new Tables(series((k) => (k % 2 ? ((k % 4 === 1 ? 1 : -1) * 8) / (Math.PI * k) ** 2 : 0)));
export const pure = new Tables([1]);

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
