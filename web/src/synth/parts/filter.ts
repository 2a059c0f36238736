/** The least and the most that a filter is tuned to: in Hz, and as a share of the sampling rate. */
const LOW = 20;
const HIGH = 0.45;

/** What a filter is tuned by: the warped frequency of a trapezoidal integrator. */
export function warped(hertz: number, rate: number): number {
  return Math.tan((Math.PI * Math.min(Math.max(hertz, LOW), HIGH * rate)) / rate);
}

/**
 * A filter with two poles, as a state variable filter of trapezoidal integrators (Zavalishin, The Art of VA
 * Filter Design): it stays stable however fast it is moved.
 */
export class Filter {
  private a = 0;
  private b = 0;
  private g = 0;
  private k = 1;
  private d = 1;
  band = 0;
  low = 0;

  constructor(private readonly rate: number) {}

  /** Tunes it, in Hz, with a resonance in dB over what is flat. */
  tune(hertz: number, decibels: number): void {
    this.set(warped(hertz, this.rate), 10 ** (-decibels / 20));
  }

  /** Tunes it by what it is warped to, and by its damping. */
  set(g: number, k: number): void {
    this.g = g;
    this.k = k;
    this.d = 1 / (1 + g * (g + k));
  }

  /** Takes a sample; low, band and what it gives back (high) are the three ways out. */
  next(x: number): number {
    const { g } = this;
    const high = (x - (this.k + g) * this.a - this.b) * this.d;
    const band = g * high + this.a;
    this.a = band + g * high;
    this.low = g * band + this.b;
    this.b = this.low + g * band;
    this.band = band * this.k;
    return high;
  }
}
