import { CLOCK, CONTINUE, PER_QUARTER, PLACE, START, STOP } from "./port";

/** Over how many clocks the tempo is taken: two quarters even out what jitter a cable has. */
const SPAN = 2 * PER_QUARTER;

/** After how long without a clock the sender is lost, in ms. */
export const LOST = 2000;

/** Tempos that are followed, in quarters a minute. */
const SLOWEST = 20;
const FASTEST = 400;

/**
 * Follows a clock that comes in: the sender's tempo, and its place. The tempo is the slope of the straight line
 * nearest to the clocks of the last beats, so that one that comes late does not shake it.
 */
export class Follower {
  playing = false;
  private times: number[] = [];
  /** Clocks since the beginning, of the last in times. */
  private clocks = -1;
  private last = Number.NEGATIVE_INFINITY;
  /** When it was told to play. */
  private begun = Number.NEGATIVE_INFINITY;

  /** Takes a message that came at a time, in ms; true: it starts, or goes on, or stops. */
  take(data: Uint8Array | readonly number[], at: number): boolean {
    switch (data[0]) {
      case START:
        this.clocks = -1;
        this.playing = true;
        this.begun = at;
        return true;
      case CONTINUE:
        this.playing = true;
        this.begun = at;
        return true;
      case STOP:
        this.playing = false;
        return true;
      case PLACE:
        this.clocks = ((((data[2] ?? 0) << 7) | (data[1] ?? 0)) * PER_QUARTER) / 4 - 1;
        return false;
      case CLOCK:
        if (at <= this.last) at = this.last + 0.001; // a clock that jumps back is taken as it comes
        if (at - this.last > LOST) this.times = [];
        this.last = at;
        this.times.push(at);
        if (this.times.length > SPAN) this.times.shift();
        if (this.playing) this.clocks++;
        return false;
    }
    return false;
  }

  /** The line through the clocks: ms for each, and where it stands at the last. */
  private get line(): { each: number; at: number } | null {
    const n = this.times.length;
    if (n < 6) return null;
    const middle = (n - 1) / 2;
    const mean = this.times.reduce((sum, t) => sum + t, 0) / n;
    let [up, down] = [0, 0];
    this.times.forEach((t, i) => {
      up += (i - middle) * (t - mean);
      down += (i - middle) ** 2;
    });
    const each = up / down;
    return { each, at: mean + each * (n - 1 - middle) };
  }

  /** The sender's tempo, in quarters a minute; null: it is not known yet. */
  get tempo(): number | null {
    const { line } = this;
    if (!line) return null;
    const tempo = 60000 / (line.each * PER_QUARTER);
    return Math.min(Math.max(tempo, SLOWEST), FASTEST);
  }

  /** The sender's place at a time, in quarters; null: it does not play, or is not known yet. */
  place(at: number): number | null {
    const { line } = this;
    if (!this.playing || !line || this.clocks < 0) return null;
    return (this.clocks + (at - line.at) / line.each) / PER_QUARTER;
  }

  /** From which place it goes on with its next clock, in quarters. */
  get next(): number {
    return (this.clocks + 1) / PER_QUARTER;
  }

  /** Whether it has fallen silent while it played. */
  lost(now: number): boolean {
    return this.playing && now - Math.max(this.last, this.begun) > LOST;
  }

  forget(): void {
    this.playing = false;
    this.times = [];
    this.clocks = -1;
  }
}
