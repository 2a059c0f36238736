import { Smooth } from "./parts/smooth";

/** What no sample goes over: half a decibel under full scale. */
const MOST = 10 ** (-0.5 / 20);

/** How many samples it looks ahead: it is turned down by the time that a peak is there. */
export const AHEAD = 64;

/** The samples that bear on each one: those ahead of it, and itself. */
const WINDOW = AHEAD + 1;

/** How long it takes to let go again, in seconds. */
const RELEASE = 0.15;

/**
 * A limiter: what goes over full scale is turned down as a whole, for as short as can be without being heard. The
 * gain is the least that is needed within the samples ahead, let go slowly, and then the mean of as many samples,
 * so that it is where it has to be when a peak leaves (Hämäläinen, Smoothing of the control signal without clipped
 * output in digital peak limiters, 2002). Samples come out AHEAD later.
 */
export class Limiter {
  private readonly left = new Float32Array(WINDOW);
  private readonly right = new Float32Array(WINDOW);
  private readonly needs = new Float64Array(WINDOW).fill(1);
  private readonly gains = new Float64Array(WINDOW).fill(1);
  private sum = WINDOW;
  private place = 0;
  private least = 1;
  private leastFor = 0; // samples for which the least of the needs still counts
  private held = 1;
  private readonly up: number;

  constructor(rate: number) {
    this.up = 1 - Math.exp(-1 / (RELEASE * rate));
  }

  /** The gain for a sample that comes in; it counts for the one that leaves. */
  private gain(l: number, r: number): number {
    const { needs, gains, place } = this;
    const peak = Math.max(Math.abs(l), Math.abs(r));
    const need = peak > MOST ? MOST / peak : 1;
    needs[place] = need;
    if (need <= this.least) {
      this.least = need;
      this.leastFor = WINDOW;
    } else if (--this.leastFor <= 0) {
      this.least = 1;
      for (let k = 1; k <= WINDOW; k++) {
        // From the oldest on: of equals the newest counts for longest.
        const own = needs[(place + k) % WINDOW]!;
        if (own <= this.least) {
          this.least = own;
          this.leastFor = k;
        }
      }
    }
    this.held = this.least < this.held ? this.least : this.held + (this.least - this.held) * this.up;
    this.sum += this.held - gains[place]!;
    gains[place] = this.held;
    return Math.min(this.sum / WINDOW, 1);
  }

  /** Turns samples down, in place; they come out AHEAD later. gains: is told by how much each. */
  render(left: Float32Array, right: Float32Array, gains?: (at: number, gain: number) => void): void {
    for (let i = 0; i < left.length; i++) {
      if (!Number.isFinite(left[i]!)) left[i] = 0;
      if (!Number.isFinite(right[i]!)) right[i] = 0;
      const gain = this.gain(left[i]!, right[i]!);
      this.left[this.place] = left[i]!;
      this.right[this.place] = right[i]!;
      this.place = (this.place + 1) % WINDOW;
      left[i] = this.left[this.place]! * gain;
      right[i] = this.right[this.place]! * gain;
      gains?.(i, gain);
    }
  }
}

/** What all voices pass before the loudspeakers: the limiter, and how loud this machine is to be. */
export class Master {
  private readonly limiter: Limiter;
  private readonly loud: Smooth;

  constructor(rate: number) {
    this.limiter = new Limiter(rate);
    this.loud = Smooth.within(0.02, rate, 1);
  }

  /** How loud, 0..1. */
  set(loud: number): void {
    this.loud.to(loud);
  }

  render(left: Float32Array, right: Float32Array): void {
    this.limiter.render(left, right);
    for (let i = 0; i < left.length; i++) {
      const loud = this.loud.next();
      left[i]! *= loud;
      right[i]! *= loud;
    }
  }
}
