import type { HandMove } from "./voices";
import { BY_HAND, type Instrument, type Performance, type Times, type Trial } from "./performance";
import { clocksBetween, clockStarts, clockStops } from "../ports/clock";
import { pumpAll, stopAll } from "../ports/routes";
import { Backing, drumKit } from "./backing";
import { Ensemble } from "./ensemble";
import { Loop } from "./loop";
import { Ordered } from "./ordered";
import { Output } from "./output";
import type { Metered } from "../synth/protocol";
import type { Listener, Running, RunningLane } from "./running";
import { Stage } from "./stage";
import { LATE, Transport } from "./transport";
import { OnTrial } from "./trial";

/** After how many seconds a key sounds that was struck by hand, and how long it sounds at the least and the most. */
const STRUCK_AFTER = 0.004;
const SHORTEST_HELD = 0.02;
const LONGEST_HELD = 600;
/** A message that is said to be older, in seconds, has a clock that is not the page's. */
const LONGEST_AGO = 1;

/** How far ahead sound is scheduled, in seconds. What is further off is read
 * from whatever performance is newest by then. */
const AHEAD = 0.15;
/** The same in the running order, where clips come in whose voices have to be made first. */
const ORDER_AHEAD = 0.3;

/** What the times of voices go by while nothing is there to be played. */
const STILL: Times = { tempo: 120, portamento: [], echoes: {} };

/** Starts an engine that plays what it is given when it asks; null: nothing. */
export async function startEngine(newest: () => Performance | null): Promise<Engine> {
  const output = new Output();
  await output.start();
  return new Engine(newest, output, await Stage.open(output));
}

/**
 * Plays the newest performance by position in time. Each turn it schedules the
 * short stretch ahead from the performance as it is then, so an edit is heard at
 * the next chance, nothing stops, and nothing piles up.
 */
export class Engine {
  playing = false;
  /** What is tried out over the loop. */
  readonly trial = new OnTrial();
  private readonly transport: Transport;
  private readonly loop: Loop;
  private readonly ordered: Ordered;
  private readonly ensemble: Ensemble;
  /** What is played by hand while the lanes sound has voices of its own. */
  private readonly hands: Ensemble;
  /** The running order, while that plays instead of a clip. */
  private running: Running | null = null;
  private readonly turn = () => this.schedule();

  constructor(
    private readonly newest: () => Performance | null,
    private readonly output: Output,
    private readonly stage: Stage,
  ) {
    const times = () => newest()?.times ?? STILL;
    this.transport = new Transport(() => newest()?.tempo ?? 120);
    this.ensemble = new Ensemble(stage, times);
    this.hands = new Ensemble(stage, times, BY_HAND);
    const backing = new Backing(stage.voice({ id: "the beat", sound: drumKit, many: true }, times));
    const clicker = stage.voice({ id: "the click", sound: drumKit, many: true }, times);
    this.loop = new Loop(this.transport, { ensemble: this.ensemble, backing, clicker, trial: this.trial });
    this.ordered = new Ordered(this.transport, this.ensemble, backing, newest);
  }

  /** Notes scheduled since the page was opened, values that control lanes set, and clicks that counted in. */
  get scheduled(): number {
    return this.transport.scheduled;
  }
  get driven(): number {
    return this.loop.driven;
  }
  get clicked(): number {
    return this.loop.clicked;
  }

  /** Since when keys are held, by their instrument and pitch, in seconds. */
  private readonly heldSince = new Map<string, number>();

  /** How loud it was when the sound told last. */
  get metered(): Metered {
    return this.stage.metered;
  }

  /** How loud all of it is on this machine, 0..1. */
  loud(loud: number): void {
    this.stage.loud(loud);
  }

  /** Lets what sounds with an instrument sound as that is now. */
  retune(instrument: Instrument): void {
    for (const own of [this.ensemble, this.hands]) if (own.ids.includes(instrument.id)) own.of(instrument);
  }

  /** Is told of what is scheduled of the running order; null: nobody asks. */
  set told(listener: Listener | null) {
    this.ordered.told = listener;
  }

  /** Plays from the clip's start, with countIn after a bar of clicks. */
  async play(countIn = false): Promise<void> {
    await this.output.start();
    const start = countIn ? -(this.newest()?.barTicks ?? 0) : 0;
    this.transport.begin(start, 0.06, false);
    this.loop.fresh = true;
    this.playing = true;
    this.stage.follow(true);
    clockStarts(0, this.transport.msAt(0));
    this.output.every(this.turn);
    this.schedule();
  }

  /** Plays from where a clock that is followed stands by then. */
  async join(tick: () => number): Promise<void> {
    await this.play();
    this.seek(tick());
  }

  /** Leaps to where a clock that is followed stands, if that is too far away to be caught up with. */
  private leap(): void {
    const to = this.transport.far();
    if (to === null) return;
    if (this.running) this.running.leaps?.(Math.round(to));
    else this.seek(to);
  }

  stop(): void {
    const was = this.playing;
    this.playing = false;
    this.running = null;
    this.loop.reset();
    this.output.every(null);
    this.quiet();
    this.trial.silence(this.transport.now);
    if (was) clockStops();
  }

  /** Ends all that sounds, and puts back what was moved. */
  private quiet(): void {
    this.ensemble.silence(this.transport.now);
    this.ensemble.rest(this.transport.now);
    this.loop.quiet();
    stopAll();
  }

  seek(tick: number): void {
    if (!this.playing) return;
    this.quiet();
    this.transport.begin(tick, 0.03, true);
    this.loop.fresh = true;
    clockStarts(tick, this.transport.msAt(tick));
  }

  /** The position within the clip, in ticks. */
  position(): number {
    const ticks = this.newest()?.ticks ?? 1;
    return this.playing ? Math.max(this.transport.tick, 0) % ticks : 0;
  }

  /** How many ticks ago what is heard stood where it did at a time of the page's clock, in ms: one plays to what one
   * hears, which the device delays. */
  ticksSince(at: number): number {
    const ago = Math.min(Math.max(this.transport.now - at / 1000, 0), LONGEST_AGO);
    return (ago + this.output.delay) * this.transport.course.rate;
  }

  /** Lets something be heard over the loop; null: no longer. */
  tryOut(trial: Trial | null): void {
    this.trial.take(trial, (instrument) => this.ensemble.made(instrument));
  }

  audition(instrument: Instrument, pitches: readonly number[]): void {
    const voice = (this.playing ? this.hands : this.ensemble).of(instrument);
    const long = pitches.length > 1 ? 0.8 : 0.28;
    if (!this.playing) this.stage.follow(true);
    for (const pitch of pitches) voice.strike(this.transport.now + 0.01, this.transport.now + long, pitch, 96);
    this.stage.flush();
  }

  /** Strikes a key that is held until it is let go. */
  hold(instrument: Instrument, pitch: number, velocity: number): void {
    const at = this.transport.now + STRUCK_AFTER;
    if (!this.playing) this.stage.follow(true);
    this.hands.of(instrument).strike(at, at + LONGEST_HELD, pitch, velocity);
    this.heldSince.set(`${instrument.id} ${pitch}`, at);
    this.stage.flush();
  }

  /** Moves what is held by hand. */
  moveHeld(instrument: Instrument, what: HandMove): void {
    const voice = this.hands.of(instrument);
    const { now } = this.transport;
    if ("wheel" in what) voice.bend(now, what.wheel);
    else if ("pressure" in what) voice.press(now, what.pressure);
    else voice.control(now, what.controller, what.value);
    this.stage.flush();
  }

  /** Lets a key go that is held. */
  letGo(instrument: Instrument, pitch: number): void {
    const since = this.heldSince.get(`${instrument.id} ${pitch}`);
    if (since === undefined) return;
    this.heldSince.delete(`${instrument.id} ${pitch}`);
    this.hands.of(instrument).lift?.(Math.max(this.transport.now, since + SHORTEST_HELD), pitch);
    this.stage.flush();
  }

  /** Plays the running order from a tick on, once that is at hand. */
  async run(running: Running, tick: number): Promise<void> {
    await this.output.start();
    this.stop();
    running.ready = (lanes) => void this.prepare(lanes);
    await running.begin(tick);
    await Promise.race([this.prepare(running.lanes(tick)), new Promise((done) => setTimeout(done, 500))]);
    this.running = running;
    this.transport.begin(tick, 0.08, false);
    this.playing = true;
    this.stage.follow(true);
    clockStarts(tick, this.transport.msAt(tick));
    running.begins?.(this.transport.msAt(tick));
    running.renewed = () => this.ordered.prune(running);
    this.output.every(this.turn);
    this.schedule();
  }

  private prepare(lanes: readonly RunningLane[]): Promise<void> {
    return this.ensemble.prepare(lanes.flatMap(({ instrument }) => instrument ?? []));
  }

  /** The place in the running order, in its ticks. */
  orderPosition(): number {
    return this.running ? this.ordered.position(this.running) : 0;
  }

  /** Up to where the running order is scheduled: what changes before is too late. */
  orderDone(): number {
    return this.running ? this.ordered.done(this.running) : 0;
  }

  private schedule(): void {
    const newest = this.newest();
    if (!this.playing || (!this.running && (!newest || newest.ticks <= 0))) return;
    const { transport } = this;
    transport.turn();
    this.stage.follow();
    this.leap();
    const until = transport.until(this.running ? ORDER_AHEAD : AHEAD);
    // After a pause of the machine, what was missed and would still sound is struck late; what is older is left out.
    const from = Math.max(transport.done, transport.course.tickAt(transport.now - LATE));
    clocksBetween(transport.done, until, transport.msAt); // all of them: who counts them has his place from that
    if (this.running) this.ordered.schedule(this.running, from, until);
    else if (newest) this.loop.schedule(newest, from, until);
    pumpAll(transport.msAt(until));
  }
}
