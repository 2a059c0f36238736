/** The page's clock, in seconds: what is played is planned by it, and ports are sent to by it. */
export const pageNow = (): number => performance.now() / 1000;

/** From how many seconds on the sound is set at once where it belongs, when it has been as far away for so many
 * seconds; and from how many on without waiting, as after a sleep of the machine. */
const FAR = 0.08;
const SEEN = 1;
const ASLEEP = 1;

/** How fast less than that is made good, in seconds a second: nobody hears a tempo that is off by so little. */
const SLEW = 0.001;

/**
 * How the sound's clock stands against the page's. The page's leads, by which all is planned and ports are sent
 * to; the sound follows, slowly where the two drift apart, at once where the sound has lost so much that it is
 * heard. The sound's clock goes in steps, and is read late while the machine has too much to do: only the least
 * that the page's is ahead of it tells anything. All in seconds.
 */
export class Clocks {
  /** The page's clock at the beginning of the sound's. */
  zero!: number;
  /** Where that belongs. */
  private aim!: number;
  /** The least that was seen, and since when. */
  private least = Number.POSITIVE_INFINITY;
  private since!: number;
  private last!: number;

  constructor(sound: number, page: number) {
    this.leap(page - sound, page);
  }

  /** Sees how they stand. begins: nothing sounds yet, so that what was seen long ago is not waited for. */
  compare(sound: number, page: number, begins = false): void {
    const own = page - sound;
    if (Math.abs(own - this.zero) > (begins ? FAR : ASLEEP)) {
      this.leap(own, page);
      return;
    }
    this.least = Math.min(this.least, own);
    const off = this.aim - this.zero;
    this.zero += Math.min(Math.abs(off), (page - this.last) * SLEW) * Math.sign(off);
    this.last = page;
    if (begins) this.since = page;
    else if (page - this.since >= SEEN) {
      this.aim = this.least;
      if (Math.abs(this.aim - this.zero) > FAR) this.leap(this.aim, page);
      this.least = Number.POSITIVE_INFINITY;
      this.since = page;
    }
  }

  private leap(zero: number, page: number): void {
    this.zero = this.aim = zero;
    this.least = Number.POSITIVE_INFINITY;
    this.since = this.last = page;
  }
}
