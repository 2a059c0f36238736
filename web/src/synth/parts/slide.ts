import type { Slide } from "../protocol";

/** Where a note's own bend stands, in semitones, as its slides lead from one to the next in straight lines. */
export class Path {
  private at = 0;

  constructor(
    private readonly slides: readonly Slide[],
    private readonly rate: number,
  ) {}

  next(n: number): number {
    const { slides } = this;
    const after = this.at / this.rate;
    this.at += n;
    if (!slides.length) return 0;
    let k = 0;
    while (k < slides.length && slides[k]!.after <= after) k++;
    const [from, to] = [slides[k - 1], slides[k]];
    if (!from || !to) return (from ?? to)!.bend;
    return from.bend + ((to.bend - from.bend) * (after - from.after)) / (to.after - from.after);
  }
}
