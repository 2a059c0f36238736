/** How long a stall is remembered, in seconds, and how much of one is reckoned with at most: what is planned far
 * ahead hears of an edit late. */
const REMEMBERED = 30;
const MOST = 0.5;

/** How far turns lie apart where nothing keeps them, in seconds. */
const USUAL = 0.06;

/**
 * How long the page is kept from its turns, in seconds: by work of its own, by others on the machine. Where it has
 * been, what is played is planned as much further ahead.
 */
export class Stalls {
  private met: { at: number; long: number }[] = [];

  /** Takes note of a turn, so long after the one before. */
  turn(at: number, after: number): void {
    const long = Math.min(after - USUAL, MOST);
    this.met = this.met.filter((m) => m.at > at - REMEMBERED);
    if (long <= 0) return;
    this.met = [...this.met.filter((m) => m.long > long), { at, long }];
  }

  /** The longest of late. */
  get longest(): number {
    return this.met[0]?.long ?? 0;
  }
}
