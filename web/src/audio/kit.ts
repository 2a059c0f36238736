import * as Tone from "tone";
import type { Sound } from "../api/gen/piece.gen";
import { drums, type Drum } from "./drums";
import { Desk } from "./desk";
import type { Voice } from "./voices";

/** The range of the wheel until a file says otherwise, in semitones. */
const WHEEL = 2;

/** The drums that a lane can be heard with, bent by the wheel and moved by
 * volume (7), pan (10) and expression (11). Each is made when it
 * is first struck. */
export class Kit implements Voice {
  private readonly level = new Tone.Gain(0.5);
  private readonly echo = new Tone.FeedbackDelay({ delayTime: 0.29, feedback: 0.32, wet: 0 });
  private readonly struck = new Map<number, { drum: Drum; tuned: number; last: number }>();
  private readonly desk: Desk;
  private key = "";
  private wheel = 0;

  constructor(out: Tone.InputNode) {
    this.desk = new Desk(out);
    this.level.chain(this.echo, this.desk.in);
  }

  set(sound: Sound): void {
    const key = JSON.stringify(sound);
    if (key === this.key) return;
    this.key = key;
    this.level.gain.rampTo((sound.level / 100) ** 1.6, 0.02);
    this.echo.wet.rampTo((sound.delay / 100) * 0.5, 0.05);
  }

  strike(time: number, _end: number, midi: number, velocity: number): void {
    const one = this.drumAt(midi);
    // A source takes its starts in strictly rising order.
    one.last = Math.max(time, one.last + 0.001);
    one.drum.hit(one.last, (velocity / 127) ** 1.5, one.tuned + this.wheel);
  }

  /** The drum at a note, or the nearest one, tuned by the distance. */
  private drumAt(midi: number): { drum: Drum; tuned: number; last: number } {
    let one = this.struck.get(midi);
    if (!one) {
      const numbers = Object.keys(drums).map(Number);
      const nearest = numbers.reduce((best, n) => (Math.abs(n - midi) < Math.abs(best - midi) ? n : best));
      one = { drum: drums[nearest]!(this.level), tuned: midi - nearest, last: 0 };
      this.struck.set(midi, one);
    }
    return one;
  }

  settle(): void {
    // Drums die away by themselves.
  }

  silence(): void {
    // What was struck dies away.
  }

  bend(_time: number, value: number): void {
    this.wheel = (value / 8192) * WHEEL;
  }

  press(): void {
    // Drums are not pressed.
  }

  control(time: number, controller: number, value: number): void {
    this.desk.control(time, controller, value);
  }

  dispose(): void {
    for (const { drum } of this.struck.values()) drum.dispose();
    this.level.dispose();
    this.echo.dispose();
    this.desk.dispose();
  }
}
