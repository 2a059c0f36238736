import { CONTROL, OFF, ON, PRESSURE, wheel, type OutPort } from "./port";

/** How long before it is due a message is sent at least, in ms, for a note's end to follow what was sent ahead. */
const AFTER = 1;

/** All that a channel was moved by is put back by these. */
const SUSTAIN = 64;
const PORTAMENTO = 65;

interface Sounding {
  lane: string;
  channel: number;
  key: number;
  on: number;
  off: number;
}

/**
 * What one port is told, and what it still holds: notes end when their lane falls silent, and what was sent ahead
 * and is not wanted any more ends as soon as it begins. Times are ms of the page's clock, before the delay.
 */
export class Sender {
  private sounding: Sounding[] = [];
  /** What each lane has moved, by channels. */
  private readonly moved = new Map<string, Map<number, Set<number>>>();
  /** What put a lane to rest, as far as it may not be due yet. */
  private rests: { message: readonly number[]; at: number }[] = [];
  private readonly bent = new Map<string, Set<number>>();

  constructor(
    readonly port: OutPort,
    private readonly now: () => number,
    /** By how many ms all is sent later. */
    public delay = 0,
  ) {}

  private send(message: readonly number[], at: number): void {
    this.port.send(message, at + this.delay);
  }

  strike(lane: string, channel: number, at: number, end: number, key: number, velocity: number): void {
    const before = this.sounding.find((n) => n.channel === channel && n.key === key && n.off > at);
    if (before) {
      this.send([OFF | (channel - 1), key, 0], at);
      before.off = at;
    }
    this.send([ON | (channel - 1), key, velocity], at);
    this.send([OFF | (channel - 1), key, 0], end);
    const now = this.now();
    this.sounding = this.sounding.filter((n) => n.off > now - 1000);
    this.sounding.push({ lane, channel, key, on: at, off: end });
  }

  bend(lane: string, channel: number, at: number, value: number): void {
    let own = this.bent.get(lane);
    if (!own) this.bent.set(lane, (own = new Set()));
    own.add(channel);
    this.send(wheel(channel, value), at);
  }

  control(lane: string, channel: number, at: number, controller: number, value: number): void {
    let own = this.moved.get(lane);
    if (!own) this.moved.set(lane, (own = new Map()));
    let of = own.get(channel);
    if (!of) own.set(channel, (of = new Set()));
    of.add(controller);
    this.send([CONTROL | (channel - 1), controller, value], at);
  }

  press(lane: string, channel: number, at: number, value: number): void {
    this.bend(lane, channel, at, 0);
    this.send([PRESSURE | (channel - 1), value], at);
  }

  /** Whether a lane has a note that is struck at a time, or near it. */
  holds(lane: string, key: number, at: number): boolean {
    return this.sounding.some((n) => n.lane === lane && n.key === key && Math.abs(n.on - at) < AFTER);
  }

  /** Ends a lane's notes from a time on, where keep does not want them, and strikes none that is to come. */
  silence(lane: string, at: number, keep?: (key: number, on: number) => boolean): void {
    const since = this.now();
    this.rests = this.rests.filter((r) => r.at > since);
    for (const n of this.sounding) {
      if (n.lane !== lane || n.off <= at || keep?.(n.key, n.on)) continue;
      // What was sent ahead cannot be taken back everywhere: it ends as it begins.
      const end = Math.max(at, n.on > at ? n.on + AFTER : at);
      this.send([OFF | (n.channel - 1), n.key, 0], end);
      n.off = end;
    }
    if (keep) return;
    const calm = (message: readonly number[], when: number) => {
      this.send(message, when);
      this.rests.push({ message, at: when });
    };
    for (const channel of this.bent.get(lane) ?? []) {
      calm(wheel(channel, 0), at);
      calm([PRESSURE | (channel - 1), 0], at);
    }
    this.bent.delete(lane);
    for (const [channel, controllers] of this.moved.get(lane) ?? [])
      for (const rest of [SUSTAIN, PORTAMENTO]) if (controllers.has(rest)) calm([CONTROL | (channel - 1), rest, 0], at);
    this.moved.delete(lane);
  }

  /** Ends all that sounds, or is to, at once. */
  stop(): void {
    this.port.clear();
    // The ends that were sent ahead may be taken back with the rest: they are sent again.
    for (const n of this.sounding) n.off = Number.POSITIVE_INFINITY;
    const now = this.now();
    for (const { message, at } of this.rests.splice(0)) if (at > now) this.send(message, now);
    const lanes = new Set([...this.sounding.map((n) => n.lane), ...this.bent.keys(), ...this.moved.keys()]);
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
