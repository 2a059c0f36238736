import { CONTROL, OFF, ON, PRESSURE, wheel, type OutPort } from "./port";

/** How long after what was sent ahead a note's end stands, and before what strikes its key anew, in ms. */
const AFTER = 1;

/** What is due within so many ms is sent at once, and waits for no lane. */
const SOON = 50;

/** All that a channel was moved by is put back by these. */
const SUSTAIN = 64;
const PORTAMENTO = 65;

/** A position of a wheel, at a time. */
export interface Position {
  at: number;
  value: number;
}

/** A note from when it was asked for until its end is past. */
interface Sounding {
  lane: string;
  channel: number;
  key: number;
  velocity: number;
  on: number;
  off: number;
  /** Whether it has been sent, and whether its end has. */
  struck: boolean;
  ended: boolean;
  /** Whether its channel is its own, one such note at a time. */
  apart: boolean;
  /** How the wheel of its own channel goes, and how much of that has been sent. */
  wheel: readonly Position[];
  turned: number;
}

/** What comes due, and which of what is due at once is sent first. */
interface Due {
  at: number;
  rank: number;
  send: () => void;
}

const ENDS = 0;
const TURNS = 1;
const STRIKES = 2;

/**
 * What one port is told, and what it still holds: notes end when their lane falls silent, and what was sent ahead
 * and is not wanted any more ends as soon as it begins. Lanes tell of their notes one after another, each for as
 * long as a turn reaches: notes are sent once all have told, in the order of time, so that which lane told first
 * is not heard. Times are ms of the page's clock, before the delay.
 */
export class Sender {
  private sounding: Sounding[] = [];
  /** What each lane has moved, and until when: what puts it back, by itself. */
  private readonly moved = new Map<string, Map<string, { rest: readonly number[]; last: number }>>();
  /** What put a lane to rest, as far as it may not be due yet. */
  private rests: { message: readonly number[]; at: number }[] = [];

  constructor(
    readonly port: OutPort,
    private readonly now: () => number,
    /** By how many ms all is sent later. */
    public delay = 0,
  ) {}

  private send(message: readonly number[], at: number): void {
    this.port.send(message, at + this.delay);
  }

  /** Whether what was sent for a time is not due yet, so that a port may take it back. */
  private readonly ahead = (at: number): boolean => at + this.delay > this.now();

  /** Strikes a note; it is sent as it comes near, and so are its end and where its channel's wheel goes meanwhile.
   * What strikes its key before its end has another end. wheel: the channel is the note's own, one such note at a
   * time; what lanes set to that channel strike there is not, and only its own key is in its way. */
  strike(
    lane: string,
    channel: number,
    at: number,
    end: number,
    key: number,
    velocity: number,
    wheel?: readonly Position[],
  ): void {
    const apart = wheel !== undefined;
    let off = end;
    for (const n of this.sounding) {
      if (n.channel !== channel || n.off <= at || (n.key !== key && !(apart && n.apart))) continue;
      if (n.on > at) off = Math.min(off, n.struck ? n.on - AFTER : n.on);
      else this.leave(n, at);
    }
    if (off <= at) return; // another takes its place at once
    const more = { struck: false, ended: false, apart, wheel: wheel ?? [], turned: 0 };
    this.sounding.push({ lane, channel, key, velocity, on: at, off, ...more });
    if (at < this.now() + SOON) this.pump(at + AFTER); // it is played by hand, or late
  }

  /** Lets a note end earlier than it would; also where its end has been sent. */
  private leave(n: Sounding, at: number): void {
    n.off = at;
    n.ended = false;
  }

  private end(n: Sounding): void {
    this.send([OFF | (n.channel - 1), n.key, 0], n.off);
    n.ended = true;
  }

  /** What of a note is due before a time, while it sounds. */
  private *due(n: Sounding, until: number): Iterable<Due> {
    if (n.off <= n.on && !n.struck) return; // another took its place
    for (let next = n.wheel[n.turned]; next && next.at < until && next.at < n.off; next = n.wheel[++n.turned]) {
      const { at, value } = next;
      yield { at, rank: TURNS, send: () => this.bend(n.lane, n.channel, at, value) };
    }
    if (!n.struck && n.on < until) {
      n.struck = true;
      const message = [ON | (n.channel - 1), n.key, n.velocity];
      yield { at: n.on, rank: STRIKES, send: () => this.send(message, n.on) };
    }
    if (n.struck && !n.ended && n.off < until) yield { at: n.off, rank: ENDS, send: () => this.end(n) };
  }

  /** Sends what is due before a time; whatever is to be struck before it has been asked for. */
  pump(until: number): void {
    const due = this.sounding.flatMap((n) => [...this.due(n, until)]);
    due.sort((a, b) => a.at - b.at || a.rank - b.rank);
    for (const { send } of due) send();
    const past = this.now() - 1000;
    this.sounding = this.sounding.filter((n) => (n.struck ? !n.ended || n.off > past : n.off > n.on));
  }

  private move(lane: string, message: readonly number[], rest: readonly number[], at: number): void {
    let own = this.moved.get(lane);
    if (!own) this.moved.set(lane, (own = new Map()));
    const what = rest.slice(0, rest.length - 1).join(" ");
    own.set(what, { rest, last: Math.max(at, own.get(what)?.last ?? at) });
    this.send(message, at);
  }

  bend(lane: string, channel: number, at: number, value: number): void {
    this.move(lane, wheel(channel, value), wheel(channel, 0), at);
  }

  control(lane: string, channel: number, at: number, controller: number, value: number): void {
    const message = (v: number) => [CONTROL | (channel - 1), controller, v];
    if (controller === SUSTAIN || controller === PORTAMENTO) this.move(lane, message(value), message(0), at);
    else this.send(message(value), at);
  }

  press(lane: string, channel: number, at: number, value: number): void {
    this.move(lane, [PRESSURE | (channel - 1), value], [PRESSURE | (channel - 1), 0], at);
  }

  /** Ends a lane's notes from a time on, where keep does not want them, and strikes none that is to come. */
  silence(lane: string, at: number, keep?: (key: number, on: number) => boolean): void {
    const now = at <= this.now();
    for (const n of this.sounding) {
      if (n.lane !== lane || n.off <= at || keep?.(n.key, n.on)) continue;
      if (!n.struck && (now || n.on > at)) {
        n.off = n.on; // it is never sent
        continue;
      }
      // What was sent ahead cannot be taken back everywhere: it ends as it begins.
      this.leave(n, n.on > at ? n.on + AFTER : at);
      if (now) this.end(n);
    }
    if (!keep) this.rest(lane, at);
  }

  /** Puts back what a lane has moved, from a time on. */
  rest(lane: string, at: number): void {
    this.rests = this.rests.filter((r) => this.ahead(r.at));
    const others = [...this.moved].filter(([id]) => id !== lane).map(([, own]) => own);
    for (const [what, { rest, last }] of this.moved.get(lane) ?? []) {
      const other = others.find((own) => own.has(what))?.get(what);
      if (other) {
        other.last = Math.max(other.last, last); // it stands as that lane has it, which puts it back
        continue;
      }
      const when = last > at ? last + AFTER : at;
      this.send(rest, when);
      this.rests.push({ message: rest, at: when });
    }
    this.moved.delete(lane);
  }

  /** Ends all that sounds, or is to, at once. */
  stop(): void {
    this.port.clear();
    this.sounding = this.sounding.filter((n) => n.struck);
    // The ends that were sent ahead may be taken back with the rest: they are sent again.
    for (const n of this.sounding) n.off = Number.POSITIVE_INFINITY;
    for (const { message, at } of this.rests.splice(0)) if (this.ahead(at)) this.send(message, this.now());
    const lanes = new Set([...this.sounding.map((n) => n.lane), ...this.moved.keys()]);
    for (const lane of lanes) this.silence(lane, this.now());
  }

  /** Ends everything on every channel, whoever began it. */
  quiet(): void {
    this.stop();
    this.sounding = [];
    for (let channel = 1; channel <= 16; channel++) {
      for (const controller of [SUSTAIN, PORTAMENTO, 120, 123])
        this.port.send([CONTROL | (channel - 1), controller, 0], 0);
      this.port.send(wheel(channel, 0), 0);
      this.port.send([PRESSURE | (channel - 1), 0], 0);
    }
  }
}
