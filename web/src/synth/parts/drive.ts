import { GRAIN } from "../source";
import { HalfBand } from "./halfband";
import { Smooth } from "./smooth";

/** How hard it is driven at 100. */
const HARDEST = 12;

/** How hard it is driven at the least: all but straight. */
const SOFTEST = 0.02;

/** Up to how hard a drive adds so little that the sampling rate holds it, and twice the sampling rate. */
const STRAIGHT = 0.5;
const SOFT = 2;

/** How loud a sine is that stays as loud, however hard it is driven. */
const USUAL = 0.25;

/** Below how many Hz what moves slowly is taken for what stands still. */
const STILL = 9;

/** A smooth bend that comes to rest at 1: the rational approximation of the hyperbolic tangent. */
export const bent = (x: number): number => {
  if (x >= 3) return 1;
  if (x <= -3) return -1;
  const square = x * x;
  return (x * (27 + square)) / (27 + 9 * square);
};

/**
 * Drive: a bend, where it is hard at twice or four times the sampling rate, so that the overtones that it adds do not fold back, and
 * after it nothing that stands still (DC).
 */
export class Drive {
  private readonly up = [new HalfBand(5, 0.07), new HalfBand(2, 0.2)] as const;
  private readonly down = [new HalfBand(2, 0.2), new HalfBand(5, 0.07)] as const;
  private readonly one = new Float64Array(GRAIN);
  private readonly two = new Float64Array(2 * GRAIN);
  private readonly four = new Float64Array(4 * GRAIN);
  private readonly hard: Smooth;
  private readonly share: Smooth;
  private readonly slow: number;
  /** At how many times the sampling rate it is worked out, and at how many it has to be. */
  private times = 1;
  private needs = 1;
  private readonly blocked = new Float64Array(4);

  constructor(rate: number) {
    this.hard = Smooth.within(0.01, rate);
    this.share = Smooth.within(0.01, rate);
    this.slow = 1 - (2 * Math.PI * STILL) / rate;
  }

  /** How hard, 0..100. */
  set(value: number): void {
    const hard = HARDEST * (value / 100) ** 2;
    if (value > 0) this.hard.to(hard);
    this.needs = hard > SOFT ? 4 : hard > STRAIGHT ? 2 : 1;
    this.times = Math.max(this.times, this.needs); // it is fewer again once nothing sounds
    this.share.to(value > 0 ? 1 : 0);
  }

  settle(): void {
    this.hard.settle();
    this.share.settle();
    this.times = this.needs;
  }

  render(out: Float32Array, n: number): void {
    if (this.share.still) return;
    const { one, two, four, up, down, hard, blocked } = this;
    for (let i = 0; i < n; i++) one[i] = out[i]!;
    const { times } = this;
    if (times > 1) up[0].up(one, n, two);
    if (times > 2) up[1].up(two, 2 * n, four);
    const own = times > 2 ? four : times > 1 ? two : one;
    let g = Math.max(hard.value, SOFTEST);
    const rise = (Math.max(hard.after(n), SOFTEST) - g) / (times * n);
    let gain = USUAL / bent(USUAL * g);
    const louder = (USUAL / bent(USUAL * (g + times * n * rise)) - gain) / (times * n);
    for (let k = 0; k < times * n; k++) {
      g += rise;
      gain += louder;
      own[k] = bent(own[k]! * g) * gain;
    }
    if (times > 2) down[0].down(four, 2 * n, two);
    if (times > 1) down[1].down(two, n, one);
    let share = this.share.value;
    const more = (this.share.after(n) - share) / n;
    const { slow } = this;
    let [x1, y1, x2, y2] = [blocked[0]!, blocked[1]!, blocked[2]!, blocked[3]!];
    for (let i = 0; i < n; i++) {
      share += more;
      const x = out[i]! + (one[i]! - out[i]!) * share;
      y1 = x - x1 + slow * y1;
      x1 = x;
      y2 = y1 - x2 + slow * y2;
      x2 = y1;
      out[i] = y2;
    }
    blocked[0] = x1;
    blocked[1] = y1;
    blocked[2] = x2;
    blocked[3] = y2;
  }
}
