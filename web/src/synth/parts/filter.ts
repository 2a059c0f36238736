/** The least and the most that a filter is tuned to: in Hz, and as a share of the sampling rate. */
const LOW = 20;
const HIGH = 0.45;

/** A filter with two poles, as a trapezoidal state variable: it stays stable however fast it is moved. */
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
    const f = Math.min(Math.max(hertz, LOW), HIGH * this.rate);
    this.g = Math.tan((Math.PI * f) / this.rate);
    this.k = 10 ** (-decibels / 20);
    this.d = 1 / (1 + this.g * (this.g + this.k));
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
