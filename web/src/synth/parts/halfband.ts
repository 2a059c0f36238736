/** How many terms of the series below are enough for doubles. */
const TERMS = 12;

/**
 * The coefficients of a half-band filter of two chains of allpass filters (Valenzuela and Constantinides, Digital
 * signal processing schemes for efficient interpolation and decimation, 1983): count of them, with a transition
 * band of so large a share of the sampling rate.
 */
function coefficients(count: number, transition: number): number[] {
  const k = Math.tan(((1 - 2 * transition) * Math.PI) / 4) ** 2;
  const root = (1 - k * k) ** 0.25;
  const e = (0.5 * (1 - root)) / (1 + root);
  const q = e * (1 + e ** 4 * (2 + e ** 4 * (15 + 150 * e ** 4)));
  const order = 2 * count + 1;
  return Array.from({ length: count }, (_, at) => {
    let up = 0;
    let down = 0.5;
    for (let i = 0; i < TERMS; i++) {
      const sign = i % 2 ? -1 : 1;
      up += sign * q ** (i * (i + 1)) * Math.sin(((2 * i + 1) * (at + 1) * Math.PI) / order);
      if (i) down += sign * q ** (i * i) * Math.cos((2 * i * (at + 1) * Math.PI) / order);
    }
    const w = ((up * q ** 0.25) / down) ** 2;
    const x = Math.sqrt((1 - w * k) * (1 - w / k)) / (1 + w);
    return (1 - x) / (1 + x);
  });
}

/** Doubles a sampling rate, or halves it, without what would fold: by two chains of allpass filters. */
export class HalfBand {
  private readonly even: Float64Array;
  private readonly odd: Float64Array;
  // What went in and what came out last, of each filter of a chain, in turns.
  private readonly evens: Float64Array;
  private readonly odds: Float64Array;

  constructor(count: number, transition: number) {
    const all = coefficients(count, transition);
    this.even = Float64Array.from(all.filter((_, i) => i % 2 === 0));
    this.odd = Float64Array.from(all.filter((_, i) => i % 2 === 1));
    this.evens = new Float64Array(2 * this.even.length);
    this.odds = new Float64Array(2 * this.odd.length);
  }

  /** Two samples for each one. */
  up(from: Float64Array, n: number, into: Float64Array): void {
    chain(this.even, this.evens, from, 0, 1, into, 0, 2, n);
    chain(this.odd, this.odds, from, 0, 1, into, 1, 2, n);
  }

  /** One sample for each two; n of them are made, in place of the first n of what they are made from. */
  down(from: Float64Array, n: number, into: Float64Array): void {
    chain(this.even, this.evens, from, 1, 2, from, 1, 2, n);
    chain(this.odd, this.odds, from, 0, 2, from, 0, 2, n);
    for (let i = 0; i < n; i++) into[i] = (from[2 * i]! + from[2 * i + 1]!) / 2;
  }
}

/** A chain of allpass filters of the first order, over n samples: every so many of one array into another. */
function chain(
  own: Float64Array,
  state: Float64Array,
  from: Float64Array,
  at: number,
  by: number,
  into: Float64Array,
  to: number,
  step: number,
  n: number,
): void {
  for (let k = 0; k < own.length; k++) {
    const a = own[k]!;
    let x = state[2 * k]!;
    let y = state[2 * k + 1]!;
    for (let i = 0, f = at, t = to; i < n; i++, f += by, t += step) {
      const v = from[f]!;
      y = a * (v - y) + x;
      x = v;
      into[t] = y;
    }
    state[2 * k] = x;
    state[2 * k + 1] = y;
    from = into;
    at = to;
    by = step;
  }
  if (own.length) return;
  for (let i = 0, f = at, t = to; i < n; i++, f += by, t += step) into[t] = from[f]!;
}
