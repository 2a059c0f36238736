/** Below this nothing is heard. */
const NOTHING = 1e-5;

/** How fast a value goes towards another that it is to have all but reached after so many seconds. */
export const pace = (seconds: number, rate: number): number =>
  1 - Math.exp(-1 / ((Math.log(seconds + 1) / Math.log(200)) * rate));

/** An envelope: a straight attack, then ever slower towards what it holds, and towards nothing when let go. */
export class Envelope {
  attack = 0.004;
  decay = 0.25;
  sustain = 0.75;
  release = 0.05;
  level = 0;
  private rising = 0;
  private top = 1;
  private target = 0;
  private speed = 0;

  constructor(private readonly rate: number) {}

  strike(top: number): void {
    this.top = top;
    this.rising = Math.max((top - this.level) / (this.attack * this.rate), 1e-9);
    this.target = top * this.sustain;
    this.speed = pace(this.decay, this.rate);
  }

  let(): void {
    this.rising = 0;
    this.target = 0;
    this.speed = pace(this.release, this.rate);
  }

  next(): number {
    if (this.rising > 0) {
      this.level += this.rising;
      if (this.level >= this.top) {
        this.level = this.top;
        this.rising = 0;
      }
    } else this.level += (this.target - this.level) * this.speed;
    return this.level;
  }

  /** Lets so many samples pass. */
  skip(n: number): number {
    for (let i = 0; i < n; i++) this.next();
    return this.level;
  }

  /** Whether it has died away. */
  get over(): boolean {
    return this.rising === 0 && this.level < NOTHING && this.target < NOTHING;
  }
}
