/** From how many ms on the two clocks have drifted apart, seen over so many ms; and from how many on one of them
 * stood still. */
const DRIFT = 12;
const SEEN = 60_000;
const ASLEEP = 1000;

/** From how many ms on what is sent would come too late, and over how long that has to be so. */
const BEHIND = 80;
const LASTING = 1000;

/** How fast a drift is made good, in ms a ms: nobody hears a tempo that is off by so little. */
const SLEW = 0.001;

/**
 * How the sound's clock stands against the page's, by which ports are sent to. They are set against each other
 * once, as playing begins, so that what is sent keeps its distances; where they drift apart later, what is sent
 * follows the sound slowly. It leaps only where the sound has lost so much that all would come too late. The
 * sound's clock goes in steps, and stands still while the machine has too much to do: only the least that the
 * page's is ahead of it tells anything.
 */
export class Clocks {
  /** Ms of the page's clock at the beginning of the sound's. */
  zero = 0;
  private least = Number.POSITIVE_INFINITY;
  private first: number | null = null;
  private since = 0;
  private last = 0;
  /** The least in the last second, and when that began. */
  private recent = Number.POSITIVE_INFINITY;
  private second = 0;
  /** What is yet to be made good, in ms. */
  private drift = 0;

  /** Sees how they stand: the sound's in seconds, the page's in ms. afresh: playing begins. */
  compare(sound: number, page: number, afresh = false): void {
    const own = page - sound * 1000;
    this.recent = Math.min(this.recent, own);
    const { recent } = this;
    let behind = false;
    if (afresh || page - this.second >= LASTING) {
      behind = !afresh && Math.abs(recent - this.zero) > BEHIND;
      [this.recent, this.second] = [own, page];
    }
    if (afresh || behind || Math.abs(own - this.zero) > ASLEEP) {
      this.zero = behind ? recent : own;
      this.least = Number.POSITIVE_INFINITY;
      this.first = null;
      this.drift = 0;
      this.since = this.last = page;
      return;
    }
    const step = Math.min(Math.abs(this.drift), (page - this.last) * SLEW) * Math.sign(this.drift);
    this.zero += step;
    this.drift -= step;
    this.last = page;
    this.least = Math.min(this.least, own);
    if (page - this.since < SEEN) return;
    if (this.first === null) this.first = this.least;
    else if (Math.abs(this.least - this.first) > DRIFT) {
      this.drift += this.least - this.first;
      this.first = this.least;
    }
    this.least = Number.POSITIVE_INFINITY;
    this.since = page;
  }
}
