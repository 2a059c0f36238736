import type { Sound } from "../api/gen/piece.gen";
import type { Instrument } from "../audio/performance";
import type { Member, Voice } from "../audio/voices";
import type { Slide } from "../synth/protocol";
import { channelOf, routeOf, senderOf, usual } from "./routes";

/** Ports are told in ms, voices in seconds. */
const ms = (time: number): number => time * 1000;

/** A lane's voice, as it goes where its route says: to the built-in voice, to a port, or to both. */
export class Routed implements Voice {
  /** The port that it goes to, as of the last message. */
  private port = "";

  constructor(
    private readonly builtIn: Voice,
    private readonly instrument: Instrument,
  ) {}

  private get lane(): string {
    return this.instrument.route ?? this.instrument.id;
  }

  /** Who sends, and on which channel. */
  private out() {
    const { route: place = "", channel = 1, apart = false } = this.instrument;
    const route = place ? routeOf(place) : usual;
    if (this.port && this.port !== route.port) senderOf(this.port)?.silence(this.lane, performance.now());
    this.port = route.port;
    return { voice: route.voice, sender: senderOf(route.port), channel: channelOf(place, route, channel, apart) };
  }

  set(sound: Sound): void {
    this.builtIn.set(sound);
  }

  strike(time: number, end: number, midi: number, velocity: number, slides?: readonly Slide[], own?: Member): void {
    const { voice, sender, channel } = this.out();
    if (voice) this.builtIn.strike(time, end, midi, velocity, slides);
    const wheel = own?.wheel.map(({ after, bend }) => ({ at: ms(time + after), value: bend }));
    sender?.strike(this.lane, own?.channel ?? channel, ms(time), ms(end), midi, velocity, wheel);
  }

  lift(time: number, midi: number): void {
    this.builtIn.lift?.(time, midi);
    if (this.port) senderOf(this.port)?.silence(this.lane, ms(time), (key) => key !== midi);
  }

  silence(time: number): void {
    this.builtIn.silence(time);
    if (this.port) senderOf(this.port)?.silence(this.lane, ms(time));
  }

  rest(time: number): void {
    this.builtIn.rest(time);
    if (this.port) senderOf(this.port)?.rest(this.lane, ms(time));
  }

  bend(time: number, value: number): void {
    const { sender, channel } = this.out();
    this.builtIn.bend(time, value);
    sender?.bend(this.lane, channel, ms(time), value);
  }

  wheel(time: number, channel: number, value: number): void {
    this.out().sender?.bend(this.lane, channel, ms(time), value);
  }

  control(time: number, controller: number, value: number): void {
    const { sender, channel } = this.out();
    this.builtIn.control(time, controller, value);
    sender?.control(this.lane, channel, ms(time), controller, value);
  }

  press(time: number, value: number): void {
    const { sender, channel } = this.out();
    this.builtIn.press(time, value);
    sender?.press(this.lane, channel, ms(time), value);
  }

  /** Sends to a channel of a zone, where a port gets it. */
  say(time: number, channel: number, controller: number, value: number): void {
    this.out().sender?.control(this.lane, channel, ms(time), controller, value);
  }

  /** Ends what sounds on a port and is not wanted any more. */
  prune(wanted: (key: number, on: number) => boolean): void {
    if (this.port) senderOf(this.port)?.silence(this.lane, performance.now(), (key, on) => wanted(key, on / 1000));
  }

  dispose(): void {
    if (this.port) senderOf(this.port)?.silence(this.lane, performance.now());
    this.builtIn.dispose();
  }
}
