import type { Performance } from "./performance";

/** What follows what: another clip, or another version of a lane, begins at the bar line after what is
 * scheduled already; an edit, or what is not to wait, at once. */
export class Succession {
  /** What is played up to a tick, where something else begins at that. */
  private before: { performance: Performance; until: number } | null = null;
  private last: Performance | null = null;

  /** Takes note of what is newest; up to done, in ticks, all is scheduled. */
  meet(newest: Performance, done: number): void {
    const { last } = this;
    if (last && last.name !== newest.name && newest.atBar && last.barTicks > 0) {
      this.before = {
        performance: this.before?.performance ?? last,
        until: this.before?.until ?? Math.ceil(done / last.barTicks) * last.barTicks,
      };
    }
    this.last = newest;
  }

  /** What is played from a tick on, and up to where. */
  at(tick: number): { now: Performance | null; until: number } {
    if (this.before && tick < this.before.until) return { now: this.before.performance, until: this.before.until };
    return { now: this.last, until: Number.POSITIVE_INFINITY };
  }

  /** What may still sound at a tick beside the newest; once what came next has begun it is gone. */
  still(tick: number): Performance | null {
    if (this.before && tick >= this.before.until) this.before = null;
    return this.before?.performance ?? null;
  }

  reset(): void {
    this.before = null;
    this.last = null;
  }
}
