import type { Backing } from "./backing";
import type { Ensemble } from "./ensemble";
import { feed, move } from "./feeder";
import type { Performance } from "./performance";
import type { Listener, Running } from "./running";
import type { Transport } from "./transport";

/** Plays the running order, which is asked for ahead of time. */
export class Ordered {
  /** Is told of what is scheduled; null: nobody asks. */
  told: Listener | null = null;

  constructor(
    private readonly transport: Transport,
    private readonly ensemble: Ensemble,
    private readonly backing: Backing,
    private readonly newest: () => Performance | null,
  ) {}

  /** The place in the order, in its ticks. */
  position(running: Running): number {
    return this.inOrder(running, Math.max(this.transport.tick, 0));
  }

  /** Up to where the order is scheduled: what changes before is too late. */
  done(running: Running): number {
    return this.inOrder(running, this.transport.done);
  }

  /** Schedules the order from a tick up to another. */
  schedule(running: Running, from: number, until: number): void {
    running.need(this.inOrder(running, from));
    for (let start = from; start < until;) {
      const { ahead: base, until: jump } = running.place(start);
      const low = start - base;
      // Bars, and where it jumps, are whole: what begins with one is never between two turns.
      const bar = (Math.floor(low / running.barTicks) + 1) * running.barTicks;
      const high = Math.min(until - base, jump - base, bar, running.known(low));
      if (high <= low) {
        until = start; // what begins there is on its way
        break;
      }
      const end = high + base;
      const time = this.transport.inTime(base);
      for (const { tick, lane } of running.silences(low, high))
        if (this.ensemble.ids.includes(lane)) {
          this.ensemble.silence(time(tick), lane);
          this.told?.silence(lane, tick);
        }
      for (const { instrument, on, sound } of running.lanes(low)) {
        if (on) move(this.ensemble.of(on), sound, low, high, time);
        if (on || !instrument) continue;
        const voice = this.ensemble.of(instrument);
        feed(voice, sound, low, high, time, (n) => {
          const late = this.transport.strike(voice, n, base, time);
          if (late !== null) this.told?.note({ at: n.at, length: n.length, pitch: n.pitch, lane: instrument.id, late });
        });
      }
      const now = this.newest();
      const beat = Math.max(low, this.transport.tick - base); // a beat that is late is left out
      if (now && beat < high)
        this.backing.schedule(now.beat.pattern, now.beat.level, now, beat, high, (tick) =>
          this.transport.course.timeAt(base + tick),
        );
      this.transport.done = end;
      if (end === jump) this.ensemble.silence(this.transport.course.timeAt(end));
      start = end;
    }
    this.transport.done = Math.max(until, this.transport.done);
  }

  /** Ends on ports what an edit has taken away, as far as it is still known what began. */
  prune(running: Running): void {
    for (const id of this.ensemble.ids)
      this.ensemble.prune(id, this.transport.course, (tick) => {
        const at = this.inOrder(running, tick);
        const lanes = running.known(at) > at ? running.lanes(at) : null;
        return lanes && { notes: lanes.filter((l) => l.instrument?.id === id).flatMap((l) => l.sound.notes), at };
      });
  }

  private inOrder(running: Running, tick: number): number {
    return tick - running.place(tick).ahead;
  }
}
