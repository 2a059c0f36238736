import type { Performance } from "./performance";
import { click, type Backing } from "./backing";
import { between } from "./events";
import type { Ensemble } from "./ensemble";
import { feed } from "./feeder";
import { lastAt } from "../sorted";
import { Succession } from "./succession";
import type { Transport } from "./transport";
import type { OnTrial } from "./trial";
import type { Voice } from "./voices";

/** What the loop of a clip is played with. */
interface Players {
  ensemble: Ensemble;
  backing: Backing;
  clicker: Voice;
  trial: OnTrial;
}

/** Plays the newest performance of a clip round and round. */
export class Loop {
  /** Whether playing has just begun somewhere. */
  fresh = true;
  /** Values that control lanes set since the page was opened. */
  driven = 0;
  /** Clicks that counted in since the page was opened. */
  clicked = 0;
  private readonly succession = new Succession();
  /** The voices that control lanes drive, by the lanes' ids. */
  private readonly drivers = new Map<string, string>();
  /** Voices of which what holds is told anew: what a control lane had moved was put back. */
  private readonly retaken = new Set<string>();
  /** What is newest when ports were looked at last. */
  private pruned: Performance | null = null;

  constructor(
    private readonly transport: Transport,
    private readonly players: Players,
  ) {}

  /** Nothing is played any more. */
  reset(): void {
    this.succession.reset();
  }

  /** Nothing is moved by control lanes any more. */
  quiet(): void {
    this.drivers.clear();
  }

  /** Schedules the clip from a tick up to another. */
  schedule(newest: Performance, from: number, until: number): void {
    this.prune(newest);
    if (from < 0) this.clicks(newest, from, Math.min(until, 0));
    this.succession.meet(newest, this.fresh ? 0 : this.transport.done);
    for (let start = Math.max(from, 0); start < until;) {
      const { now: played, until: change } = this.succession.at(start);
      const now = played ?? newest;
      const base = Math.floor(start / now.ticks) * now.ticks;
      const end = Math.min(until, base + now.ticks, change);
      this.stretch(now, base, start - base, end - base);
      start = end;
    }
    this.transport.done = Math.max(until, this.transport.done);
    // What goes sounds until what comes begins.
    const now = this.succession.still(this.transport.tick) ?? newest;
    const heard = new Set(now.parts.filter((part) => part.audible).map((part) => part.id));
    for (const id of this.players.ensemble.ids) {
      if (![...now.parts, ...newest.parts].some((part) => part.id === id)) this.players.ensemble.dismiss(id);
      else if (!heard.has(id)) this.players.ensemble.silence(this.transport.now, id);
    }
  }

  /** Ends on ports what an edit has taken away. */
  private prune(newest: Performance): void {
    if (this.pruned === newest) return;
    const same = this.pruned?.name === newest.name;
    this.pruned = newest;
    if (!same) return; // another clip begins at its bar
    for (const { id, notes } of newest.parts)
      this.players.ensemble.prune(id, this.transport.course, (tick) => ({
        notes,
        at: ((tick % newest.ticks) + newest.ticks) % newest.ticks,
      }));
  }

  /** Clicks on the beats before the clip begins. */
  private clicks({ beatTicks: beat, barTicks: bar }: Performance, low: number, high: number): void {
    for (let tick = Math.ceil(low / beat) * beat; tick < high; tick += beat) {
      click(this.players.clicker, this.transport.course.timeAt(tick), tick % bar === 0);
      this.clicked++;
    }
  }

  /** Puts back what a control lane has moved that drives no more: it was muted, or taken away. */
  private release({ parts }: Performance): void {
    for (const [id, to] of this.drivers) {
      if (parts.some((part) => part.id === id && part.audible && part.on === to)) continue;
      this.drivers.delete(id);
      this.players.ensemble.rest(this.transport.now, to);
      this.retaken.add(to);
    }
  }

  /** Lets control lanes move the voices of the lanes that they act on, before those sound.
   * Where playing begins amid a clip, what was set before holds. */
  private drive({ parts }: Performance, low: number, high: number, time: (at: number) => number): void {
    for (const part of parts) {
      const to = part.audible && part.on && parts.find((other) => other.id === part.on);
      if (!to || !to.audible || !to.instrument) continue;
      const voice = this.players.ensemble.of(to.instrument);
      this.drivers.set(part.id, to.id);
      if ((this.fresh || this.retaken.has(to.id)) && low > 0) {
        const last = <T extends { at: number }>(list: readonly T[]) => list[lastAt(list, (e) => e.at, low)];
        const [c, b, p] = [last(part.controls), last(part.bends), last(part.pressures)];
        if (c) voice.control(time(low), c.controller, c.value);
        if (b) voice.bend(time(low), b.value);
        if (p) voice.press(time(low), p.value);
      }
      between(part.controls, low, high, (c) => {
        voice.control(time(c.at), c.controller, c.value);
        this.driven++;
      });
      between(part.bends, low, high, (b) => voice.bend(time(b.at), b.value));
      between(part.pressures, low, high, (p) => voice.press(time(p.at), p.value));
    }
    this.fresh = false;
  }

  /** Schedules what begins from tick low up to high of the clip, which began at
   * base. */
  private stretch(now: Performance, base: number, low: number, high: number): void {
    const time = this.transport.inTime(base);
    this.release(now);
    const { fresh } = this;
    this.drive(now, low, high, time);
    for (const part of now.parts) {
      if (!part.audible || !part.instrument) continue;
      const voice = this.players.ensemble.of(part.instrument);
      if (fresh && part.wheels.length)
        for (const c of now.setup) voice.say?.(time(low), c.channel ?? 1, c.controller, c.value);
      if ((fresh || this.retaken.delete(part.id)) && low > 0) {
        // What a file says first is said wherever it begins.
        for (const c of part.controls) if (c.at === 0) voice.control(time(low), c.controller, c.value);
      }
      between(part.wheels, low, high, (b) => voice.wheel?.(time(b.at), b.channel ?? 1, b.value));
      feed(voice, { ...part, pressures: [] }, low, high, time, (n) => void this.transport.strike(voice, n, base, time));
    }
    this.players.trial.schedule(low, high, time);
    const beat = Math.max(low, this.transport.tick - base); // a beat that is late is left out
    const { from } = now; // the beat goes by the bars of the clip
    if (beat < high)
      this.players.backing.schedule(now.beat.pattern, now.beat.level, now, from + beat, from + high, (tick) =>
        this.transport.course.timeAt(base + tick - from),
      );
  }
}
