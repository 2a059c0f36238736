/** From where on the sum of all voices is held back, and how fast, in seconds. */
const THRESHOLD = 10 ** (-3 / 20);
const ATTACK = 0.002;
const RELEASE = 0.12;

/** Up to where what is left is as it was; louder is rounded off below full scale, as nothing is quick enough
 * for the first moment of many notes at once. */
const STRAIGHT = 0.8;
const REST = 1 - STRAIGHT;

function rounded(v: number): number {
  const size = Math.abs(v);
  return size <= STRAIGHT ? v : Math.sign(v) * (STRAIGHT + REST * Math.tanh((size - STRAIGHT) / REST));
}

/** What all voices pass before the loudspeakers. */
export class Master {
  private peak = 0;
  private readonly up: number;
  private readonly down: number;

  constructor(rate: number) {
    this.up = 1 - Math.exp(-1 / (ATTACK * rate));
    this.down = 1 - Math.exp(-1 / (RELEASE * rate));
  }

  render(left: Float32Array, right: Float32Array): void {
    let { peak } = this;
    for (let i = 0; i < left.length; i++) {
      if (!Number.isFinite(left[i]!)) left[i] = 0;
      if (!Number.isFinite(right[i]!)) right[i] = 0;
      const size = Math.max(Math.abs(left[i]!), Math.abs(right[i]!));
      peak += (size - peak) * (size > peak ? this.up : this.down);
      const gain = peak > THRESHOLD ? THRESHOLD / peak : 1;
      left[i] = rounded(left[i]! * gain);
      right[i] = rounded(right[i]! * gain);
    }
    this.peak = peak;
  }
}
