/** Below this nothing is heard: 86 dB under a note's top. */
const NOTHING = 5e-5;

/** What share of the way to a value is gone in a sample, where all but 1/e of it is gone after so many seconds. */
export const pace = (seconds: number, rate: number): number => 1 - Math.exp(-1 / (seconds * rate));

/** How far over its top an attack aims, so that it gets there. */
const AIM = 1.2;

/** By what an attack's time constant is shorter than its time, so that it is within 1/e of its top by then. */
const STEEPER = Math.log(AIM / (AIM - 1 + 1 / Math.E));

/**
 * An envelope from 0 to 1: it rises, falls towards what it holds, and towards nothing when let go. Times are in
 * seconds, and tell when it has come to within 1/e of where it goes.
 */
export class Envelope {
  attack = 0.004;
  decay = 0.25;
  sustain = 0.75;
  release = 0.05;
  level = 0;
  private rising = false;
  private target = 0;
  private speed = 0;

  constructor(private readonly rate: number) {}

  strike(): void {
    this.rising = true;
    this.target = AIM;
    this.speed = pace(this.attack / STEEPER, this.rate);
  }

  let(seconds = this.release): void {
    this.rising = false;
    this.target = 0;
    this.speed = pace(seconds, this.rate);
  }

  /** Takes times and what is held anew, also while it sounds. */
  renew(): void {
    if (this.target === 0 || this.rising) return;
    this.target = this.sustain;
    this.speed = pace(this.decay, this.rate);
  }

  private fall(): void {
    this.level = 1;
    this.rising = false;
    // What holds nothing goes on falling, and is over once it is not heard.
    this.target = Math.max(this.sustain, Number.MIN_VALUE);
    this.speed = pace(this.decay, this.rate);
  }

  next(): number {
    this.level += (this.target - this.level) * this.speed;
    if (this.rising && this.level >= 1) this.fall();
    return this.level;
  }

  /** Lets n samples pass. */
  skip(n: number): number {
    this.level += (this.target - this.level) * (1 - (1 - this.speed) ** n);
    if (this.rising && this.level >= 1) this.fall();
    return this.level;
  }

  /** Whether it has died away. */
  get over(): boolean {
    return !this.rising && this.level < NOTHING && this.target < NOTHING;
  }
}
