/** How many tempos are remembered: a clock that is followed gives one each turn. */
const REMEMBERED = 400;

/** A position in ticks at a moment, and the ticks a second from there on. */
interface Anchor {
  tick: number;
  time: number;
  rate: number;
}

/** How what is played goes: the position in ticks, never wrapped, at each moment of the page's clock, in seconds. */
export class Course {
  private now: Anchor = { tick: 0, time: 0, rate: 1 };
  /** What held before, the newest last. */
  private past: Anchor[] = [];

  /** Begins at a tick, at a moment, with so many ticks a second. */
  begin(tick: number, time: number, rate: number): void {
    this.now = { tick, time, rate };
    this.past = [];
  }

  /** Has another tempo from a tick on. */
  change(tick: number, rate: number): void {
    const time = this.timeAt(tick);
    this.past = [...this.past, this.now].slice(-REMEMBERED);
    this.now = { tick, time, rate };
  }

  /** Ticks a second, as of now. */
  get rate(): number {
    return this.now.rate;
  }

  /** The position at a moment from now on. */
  tickAt(time: number): number {
    return this.now.tick + (time - this.now.time) * this.now.rate;
  }

  /** The position at a moment that may be past, whose tempo may have been another. */
  tickOf(time: number): number {
    const held = time < this.now.time ? this.past.findLast((p) => p.time <= time) : undefined;
    const { tick, time: since, rate } = held ?? this.now;
    return tick + (time - since) * rate;
  }

  timeAt(tick: number): number {
    return this.now.time + (tick - this.now.tick) / this.now.rate;
  }
}
