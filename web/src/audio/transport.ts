import { PPQ, type Note } from "../api/gen/view.gen";
import { clockFree, followed } from "../ports/clock";
import { earliest } from "../ports/routes";
import { memberOf, slidesOf } from "./feeder";
import { pageNow } from "./clocks";
import { Course } from "./course";
import { Stalls } from "./stalls";
import type { Voice } from "./voices";

/** By how much what is scheduled may be late, after a pause of the machine, to be struck all the same if it still
 * sounds, in seconds. */
export const LATE = 1;
/** How long a note sounds at the least that is struck late, in seconds. */
const LATE_LENGTH = 0.02;

/** From how many ticks on a clock that is followed is leapt after, and how many seconds that takes to settle. */
const FAR = PPQ;
const SETTLED = 2;

/** From how many seconds without a turn on the machine slept. */
const ASLEEP = 5;

/** Where playing stands: which tick is due when, and up to where all is scheduled. */
export class Transport {
  readonly course = new Course();
  /** Up to where sound has been scheduled, on the same unwrapped axis. */
  done = 0;
  /** Notes scheduled since the page was opened. */
  scheduled = 0;
  /** When it last looked what to schedule. */
  private turned = 0;
  /** When it leapt last after a clock that is followed, in seconds. */
  private leapt = Number.NEGATIVE_INFINITY;
  private readonly stalls = new Stalls();

  /** tempo: the piece's, in quarters a minute. */
  constructor(private readonly tempo: () => number) {}

  get now(): number {
    return pageNow();
  }

  /** The tick that is due now. */
  get tick(): number {
    return this.course.tickAt(this.now);
  }

  /** When a position is due, in ms of the page's clock. */
  readonly msAt = (tick: number): number => this.course.timeAt(tick) * 1000;

  /** Ticks a second: at the piece's tempo, or at that of the clock that is followed, and towards its place. */
  private rate(follows: boolean): number {
    const to = follows ? followed(performance.now()) : null;
    if (to) {
      const off = (to.tick - this.tick) / PPQ;
      return (to.tempo / 60) * PPQ * (1 + Math.min(Math.max(off / 2, -0.05), 0.05));
    }
    return (this.tempo() / 60) * PPQ;
  }

  /** Lets a position be due in so many seconds, and as many more as ports are told ahead. */
  begin(tick: number, soon: number, follows: boolean): void {
    const due = Math.max(this.now + soon + earliest() / 1000, clockFree() / 1000);
    this.course.begin(tick, due, this.rate(follows));
    this.done = tick;
    this.turned = this.now;
  }

  /** A turn in which it is looked what to schedule. */
  turn(): void {
    if (this.now - this.turned > ASLEEP) this.begin(this.done, 0.03, true); // it goes on from where it was
    this.stalls.turn(this.now, this.now - this.turned);
    this.turned = this.now;
    const rate = this.rate(true);
    if (rate !== this.course.rate) this.course.change(this.done, rate); // from where the last turn left off
  }

  /** The tick up to which this turn schedules, so many seconds ahead and as many more as turns came late. */
  until(ahead: number): number {
    return this.course.tickAt(this.now + ahead + this.stalls.longest + earliest() / 1000);
  }

  /** Where a clock that is followed stands, if that is too far away to be caught up with; null: it is not. */
  far(): number | null {
    const to = followed(performance.now());
    if (!to || Math.abs(to.tick - this.tick) < FAR || this.now < this.leapt + SETTLED) return null;
    this.leapt = this.now;
    return to.tick;
  }

  /** When positions after a base are due. What is late comes one after another: no voice is asked to go back in time. */
  inTime(base: number): (tick: number) => number {
    let floor = this.now;
    return (tick) => {
      const due = this.course.timeAt(base + tick);
      return due >= floor ? due : (floor += 0.002);
    };
  }

  /** Strikes a note, and tells by how many seconds too late; null: it would be over by now, and is not struck. */
  strike(voice: Voice, n: Note, base: number, time: (tick: number) => number): number | null {
    const due = this.course.timeAt(base + n.at);
    const end = this.course.timeAt(base + n.at + n.length);
    if (end <= this.now && due < this.now) return null;
    const onset = time(n.at);
    const { rate } = this.course;
    const over = onset > due ? Math.max(end, onset + LATE_LENGTH) : end;
    voice.strike(onset, over, n.pitch, n.velocity, slidesOf(n.slides, rate), memberOf(n, rate));
    this.scheduled++;
    return onset - due;
  }
}
