import { PPQ, type Note } from "../api/gen/view.gen";
import { memberOf, move, slidesOf } from "../sound/feed";
import { Backing, drumKit } from "./backing";
import { lastAt } from "../sorted";
import { Ensemble } from "./ensemble";
import { between } from "./events";
import { Output } from "./output";
import type { Instrument, Performance, Trial } from "./performance";
import type { Listener, Running, RunningLane } from "./running";
import { pageNow } from "./clocks";
import { Course } from "./course";
import { Stage } from "./stage";
import { Stalls } from "./stalls";
import { Succession } from "./succession";
import { clockFree, clocksBetween, clockStarts, clockStops, followed } from "../ports/clock";
import { earliest, pumpAll, stopAll } from "../ports/routes";
import { OnTrial } from "./trial";
import type { Voice } from "./voices";

/** The note of the click in the kit. */
const CLICK = 33;

/** How far ahead sound is scheduled, in seconds. What is further off is read
 * from whatever performance is newest by then. */
const AHEAD = 0.15;
/** The same in the running order, where clips come in whose voices have to be made first. */
const ORDER_AHEAD = 0.3;
/** By how much what is scheduled may be late, after a pause of the machine, to be struck all the same if it still
 * sounds. */
const LATE = 1;
/** How long a note sounds at the least that is struck late. */
const LATE_LENGTH = 0.02;

/** Starts an engine that plays what it is given when it asks; null: nothing. */
export async function startEngine(newest: () => Performance | null): Promise<Engine> {
  const output = new Output();
  await output.start();
  return new Engine(newest, output, await Stage.open(output));
}

/** From how many ticks on a clock that is followed is leapt after, and how many seconds that takes to settle. */
const FAR = PPQ;
const SETTLED = 2;

/** From how many seconds without a turn on the machine slept. */
const ASLEEP = 5;

/** Within how many ticks a note stands where it stood. */
const NEAR = 3;

/**
 * Plays the newest performance by position in time. Each turn it schedules the
 * short stretch ahead from the performance as it is then, so an edit is heard at
 * the next chance, nothing stops, and nothing piles up.
 */
export class Engine {
  playing = false;
  /** Notes scheduled since the page was opened. */
  scheduled = 0;
  /** Values that control lanes set since the page was opened. */
  driven = 0;
  /** What is tried out over the loop. */
  readonly trial = new OnTrial();
  /** Whether playing has just begun somewhere. */
  private fresh = true;
  private readonly ensemble: Ensemble;
  /** What is played by hand while the lanes sound has voices of its own. */
  private readonly hands: Ensemble;
  private readonly backing: Backing;
  /** Clicks that counted in since the page was opened. */
  clicked = 0;
  private readonly clicker: Voice;
  private readonly turn = () => this.schedule();
  private readonly course = new Course();
  /** Up to where sound has been scheduled, on the same unwrapped axis. */
  private done = 0;

  constructor(
    private readonly newest: () => Performance | null,
    private readonly output: Output,
    private readonly stage: Stage,
  ) {
    const portamento = () => newest()?.portamento ?? [];
    this.ensemble = new Ensemble(stage, portamento);
    this.hands = new Ensemble(stage, portamento, " by hand");
    this.backing = new Backing(stage.voice({ id: "the beat", sound: drumKit, many: true }, []));
    this.clicker = stage.voice({ id: "the click", sound: drumKit, many: true }, []);
  }

  private get now(): number {
    return pageNow();
  }

  /** When a position is due, in ms of the page's clock. */
  private readonly msAt = (tick: number): number => this.course.timeAt(tick) * 1000;

  /** Ticks a second: at the piece's tempo, or at that of the clock that is followed, and towards its place. */
  private get rate(): number {
    const to = this.playing ? followed(performance.now()) : null;
    if (to) {
      const off = (to.tick - this.course.tickAt(this.now)) / PPQ;
      return (to.tempo / 60) * PPQ * (1 + Math.min(Math.max(off / 2, -0.05), 0.05));
    }
    return ((this.newest()?.tempo ?? 120) / 60) * PPQ;
  }

  /** When it last looked what to schedule. */
  private turned = 0;
  private readonly stalls = new Stalls();

  /** Lets a position be due in so many seconds, and as many more as ports are told ahead. */
  private begin(tick: number, soon: number): void {
    const due = Math.max(this.now + soon + earliest() / 1000, clockFree() / 1000);
    this.course.begin(tick, due, this.rate);
    this.done = tick;
    this.turned = this.now;
  }

  /** Plays from the clip's start, with countIn after a bar of clicks. */
  async play(countIn = false): Promise<void> {
    await this.output.start();
    const start = countIn ? -(this.newest()?.barTicks ?? 0) : 0;
    this.begin(start, 0.06);
    this.fresh = true;
    this.playing = true;
    this.stage.follow(true);
    clockStarts(0, this.msAt(0));
    this.output.every(this.turn);
    this.schedule();
  }

  /** Plays from where a clock that is followed stands by then. */
  async join(tick: () => number): Promise<void> {
    await this.play();
    this.seek(tick());
  }

  /** When it leapt last after a clock that is followed, in seconds. */
  private leapt = Number.NEGATIVE_INFINITY;

  /** Leaps to where a clock that is followed stands, if that is too far away to be caught up with. */
  private leap(): void {
    const to = followed(performance.now());
    if (!to || Math.abs(to.tick - this.course.tickAt(this.now)) < FAR || this.now < this.leapt + SETTLED) return;
    this.leapt = this.now;
    if (this.running) this.running.leaps?.(Math.round(to.tick));
    else this.seek(to.tick);
  }

  stop(): void {
    const was = this.playing;
    this.playing = false;
    this.running = null;
    this.succession.reset();
    this.output.every(null);
    this.quiet();
    this.trial.silence(this.now);
    if (was) clockStops();
  }

  /** Ends all that sounds, and puts back what was moved. */
  private quiet(): void {
    this.ensemble.silence(this.now);
    this.ensemble.rest(this.now);
    this.drivers.clear();
    stopAll();
  }

  seek(tick: number): void {
    if (!this.playing) return;
    this.quiet();
    this.begin(tick, 0.03);
    this.fresh = true;
    clockStarts(tick, this.msAt(tick));
  }

  /** The position within the clip, in ticks. */
  position(): number {
    const ticks = this.newest()?.ticks ?? 1;
    return this.playing ? Math.max(this.course.tickAt(this.now), 0) % ticks : 0;
  }

  /** Lets something be heard over the loop; null: no longer. */
  tryOut(trial: Trial | null): void {
    this.trial.take(trial, (instrument) => this.ensemble.made(instrument));
  }

  audition(instrument: Instrument, pitches: readonly number[]): void {
    const voice = (this.playing ? this.hands : this.ensemble).of(instrument);
    const long = pitches.length > 1 ? 0.8 : 0.28;
    if (!this.playing) this.stage.follow(true);
    for (const pitch of pitches) voice.strike(this.now + 0.01, this.now + long, pitch, 96);
  }

  private readonly succession = new Succession();
  /** The running order, while that plays instead of a clip. */
  private running: Running | null = null;

  /** Plays the running order from a tick on, once that is at hand. */
  async run(running: Running, tick: number): Promise<void> {
    await this.output.start();
    this.stop();
    running.ready = (lanes) => void this.prepare(lanes);
    await running.begin(tick);
    await Promise.race([this.prepare(running.lanes(tick)), new Promise((done) => setTimeout(done, 500))]);
    this.running = running;
    this.begin(tick, 0.08);
    this.playing = true;
    this.stage.follow(true);
    clockStarts(tick, this.msAt(tick));
    running.begins?.(this.msAt(tick));
    running.renewed = () => this.pruneOrder(running);
    this.output.every(this.turn);
    this.schedule();
  }

  private prepare(lanes: readonly RunningLane[]): Promise<void> {
    return this.ensemble.prepare(lanes.flatMap(({ instrument }) => instrument ?? []));
  }

  /** The place in the running order, in its ticks. */
  orderPosition(): number {
    return this.running ? this.inOrder(this.running, Math.max(this.course.tickAt(this.now), 0)) : 0;
  }

  /** Up to where the running order is scheduled: what changes before is too late. */
  orderDone(): number {
    return this.running ? this.inOrder(this.running, this.done) : 0;
  }

  private inOrder(running: Running, tick: number): number {
    return tick - running.place(tick).ahead;
  }

  /** When positions after a base are due. What is late comes one after another: no voice is asked to go back in time. */
  private inTime(base: number): (tick: number) => number {
    let floor = this.now;
    return (tick) => {
      const due = this.course.timeAt(base + tick);
      return due >= floor ? due : (floor += 0.002);
    };
  }

  /** Strikes a note, and tells by how many seconds too late; null: it would be over by now, and is not struck. */
  private strike(voice: Voice, n: Note, base: number, time: (tick: number) => number): number | null {
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

  private advance(running: Running, from: number, until: number): void {
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
      const time = this.inTime(base);
      for (const { tick, lane } of running.silences(low, high))
        if (this.ensemble.ids.includes(lane)) {
          this.ensemble.silence(time(tick), lane);
          this.told?.silence(lane, tick);
        }
      for (const { instrument, on, sound } of running.lanes(low)) {
        const to = on ?? instrument;
        if (!to) continue;
        const voice = this.ensemble.of(to);
        move(voice, sound, low, high, time);
        if (on) continue;
        between(sound.notes, low, high, (n) => {
          const late = this.strike(voice, n, base, time);
          if (late !== null)
            this.told?.note({ at: n.at, length: n.length, pitch: n.pitch, lane: instrument!.id, late });
        });
      }
      const now = this.newest();
      const beat = Math.max(low, this.course.tickAt(this.now) - base); // a beat that is late is left out
      if (now && beat < high)
        this.backing.schedule(now.beat.pattern, now.beat.level, now, beat, high, (tick) =>
          this.course.timeAt(base + tick),
        );
      this.done = end;
      if (end === jump) this.ensemble.silence(this.course.timeAt(end));
      start = end;
    }
    this.done = Math.max(until, this.done);
  }

  /** Is told of what is scheduled of the running order; null: nobody asks. */
  told: Listener | null = null;

  private schedule(): void {
    const newest = this.newest();
    if (!this.playing || (!this.running && (!newest || newest.ticks <= 0))) return;
    if (this.now - this.turned > ASLEEP) this.begin(this.done, 0.03); // it goes on from where it was
    this.stalls.turn(this.now, this.now - this.turned);
    this.turned = this.now;
    const { rate } = this;
    if (rate !== this.course.rate) this.course.change(this.done, rate); // from where the last turn left off
    this.stage.follow();
    this.leap();
    const ahead = (this.running ? ORDER_AHEAD : AHEAD) + this.stalls.longest + earliest() / 1000;
    const until = this.course.tickAt(this.now + ahead);
    // After a pause of the machine, what was missed and would still sound is struck late; what is older is left out.
    const from = Math.max(this.done, this.course.tickAt(this.now - LATE));
    clocksBetween(this.done, until, this.msAt); // all of them: who counts them has his place from that
    if (this.running) this.advance(this.running, from, until);
    else if (newest) this.loop(newest, from, until);
    pumpAll(this.msAt(until));
  }

  /** Schedules the clip from a tick up to another. */
  private loop(newest: Performance, from: number, until: number): void {
    this.prune(newest);
    if (from < 0) this.clicks(newest.beatTicks, from, Math.min(until, 0));
    this.succession.meet(newest, this.fresh ? 0 : this.done);
    for (let start = Math.max(from, 0); start < until;) {
      const { now: played, until: change } = this.succession.at(start);
      const now = played ?? newest;
      const base = Math.floor(start / now.ticks) * now.ticks;
      const end = Math.min(until, base + now.ticks, change);
      this.stretch(now, base, start - base, end - base);
      start = end;
    }
    this.done = Math.max(until, this.done);
    // What goes sounds until what comes begins.
    const now = this.succession.still(this.course.tickAt(this.now)) ?? newest;
    const heard = new Set(now.parts.filter((part) => part.audible).map((part) => part.id));
    for (const id of this.ensemble.ids) {
      if (![...now.parts, ...newest.parts].some((part) => part.id === id)) this.ensemble.dismiss(id);
      else if (!heard.has(id)) this.ensemble.silence(this.now, id);
    }
  }

  /** What is newest when ports were looked at last. */
  private pruned: Performance | null = null;

  /** Ends on ports what an edit has taken away. */
  private prune(newest: Performance): void {
    if (this.pruned === newest) return;
    const same = this.pruned?.name === newest.name;
    this.pruned = newest;
    if (!same) return; // another clip begins at its bar
    for (const { id, notes } of newest.parts)
      this.pruneVoice(id, (tick) => ({ notes, at: ((tick % newest.ticks) + newest.ticks) % newest.ticks }));
  }

  /** The same of the running order, as far as it is still known what began. */
  private pruneOrder(running: Running): void {
    for (const id of this.ensemble.ids)
      this.pruneVoice(id, (tick) => {
        const at = this.inOrder(running, tick);
        const lanes = running.known(at) > at ? running.lanes(at) : null;
        return lanes && { notes: lanes.filter((l) => l.instrument?.id === id).flatMap((l) => l.sound.notes), at };
      });
  }

  /** Ends what a voice sounds on a port that is not among what begins at its place; null: nobody knows. */
  private pruneVoice(id: string, begun: (tick: number) => { notes: readonly Note[]; at: number } | null): void {
    this.ensemble.prune(id, (key, on) => {
      const of = begun(Math.round(this.course.tickOf(on)));
      return !of || of.notes.some((n) => n.pitch === key && Math.abs(n.at - of.at) < NEAR);
    });
  }

  /** Clicks on the beats before the clip begins. */
  private clicks(beat: number, low: number, high: number): void {
    for (let tick = Math.ceil(low / beat) * beat; tick < high; tick += beat) {
      this.clicker.strike(this.course.timeAt(tick), this.course.timeAt(tick) + 0.05, CLICK, 90);
      this.clicked++;
    }
  }

  /** The voices that control lanes drive, by the lanes' ids. */
  private readonly drivers = new Map<string, string>();
  /** Voices of which what holds is told anew: what a control lane had moved was put back. */
  private readonly retaken = new Set<string>();

  /** Puts back what a control lane has moved that drives no more: it was muted, or taken away. */
  private release({ parts }: Performance): void {
    for (const [id, to] of this.drivers) {
      if (parts.some((part) => part.id === id && part.audible && part.on === to)) continue;
      this.drivers.delete(id);
      this.ensemble.rest(this.now, to);
      this.retaken.add(to);
    }
  }

  /** Lets control lanes move the voices of the lanes that they act on, before those sound.
   * Where playing begins amid a clip, what was set before holds. */
  private drive({ parts }: Performance, low: number, high: number, time: (at: number) => number): void {
    for (const part of parts) {
      const to = part.audible && part.on && parts.find((other) => other.id === part.on);
      if (!to || !to.audible || !to.instrument) continue;
      const voice = this.ensemble.of(to.instrument);
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
    const time = this.inTime(base);
    this.release(now);
    const { fresh } = this;
    this.drive(now, low, high, time);
    for (const part of now.parts) {
      if (!part.audible || !part.instrument) continue;
      const voice = this.ensemble.of(part.instrument);
      if (fresh && part.wheels.length)
        for (const c of now.setup) voice.say?.(time(low), c.channel ?? 1, c.controller, c.value);
      if ((fresh || this.retaken.delete(part.id)) && low > 0) {
        // What a file says first is said wherever it begins.
        for (const c of part.controls) if (c.at === 0) voice.control(time(low), c.controller, c.value);
      }
      move(voice, { ...part, pressures: [] }, low, high, time);
      between(part.wheels, low, high, (b) => voice.wheel?.(time(b.at), b.channel ?? 1, b.value));
      between(part.notes, low, high, (n) => void this.strike(voice, n, base, time));
    }
    this.trial.schedule(low, high, time);
    const beat = Math.max(low, this.course.tickAt(this.now) - base); // a beat that is late is left out
    if (beat < high)
      this.backing.schedule(now.beat.pattern, now.beat.level, now, beat, high, (tick) =>
        this.course.timeAt(base + tick),
      );
  }
}
