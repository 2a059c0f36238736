import { make } from "./make";
import { Echo, Smooth } from "./parts/echo";
import { within } from "./parts/pitch";
import type { Act, Timbre } from "./protocol";
import { GRAIN, type Source, type Struck } from "./source";

/** Controllers as they stand where nothing has moved them: modulation, portamento's time, volume, pan, expression, pedal,
 * portamento, resonance, brightness. */
const RESTS: readonly (readonly [controller: number, value: number])[] = [
  [1, 0],
  [5, 0],
  [7, 100],
  [10, 64],
  [11, 127],
  [64, 0],
  [65, 0],
  [71, 64],
  [74, 64],
];

/** What falls silent puts back, as a port is told to. */
const SILENCED: readonly number[] = [64, 65];

/** The settings of a sound within their range, whatever they are. */
function bounded(timbre: Timbre): Timbre {
  const sound = { ...timbre.sound };
  for (const [name, value] of Object.entries(sound))
    if (typeof value === "number") Object.assign(sound, { [name]: within(value, 0, 100, 0) });
  return { ...timbre, sound };
}

/** A lane as it sounds: its source, then level, echo, expression (11), volume (7) and pan (10). */
export class Lane {
  private source: Source;
  private readonly echo: Echo;
  private readonly level: Smooth;
  private readonly expression: Smooth;
  private readonly volume: Smooth;
  private readonly pan: Smooth;
  private readonly grain = new Float32Array(GRAIN);
  private timbre: Timbre;
  /** For how many samples something may still be heard. */
  private left = 0;

  constructor(
    private readonly rate: number,
    timbre: Timbre,
  ) {
    const speed = 1 / (0.01 * rate);
    this.timbre = bounded(timbre);
    this.source = make(rate, this.timbre);
    this.echo = new Echo(rate);
    this.level = new Smooth(0, speed);
    this.expression = new Smooth(1, speed);
    this.volume = new Smooth(1, speed);
    this.pan = new Smooth(0, speed);
    this.set(timbre);
    this.level.value = this.loud;
  }

  private get loud(): number {
    return (this.timbre.sound.level / 100) ** 1.6 * this.source.gain;
  }

  set(timbre: Timbre): void {
    const { sound, many } = this.timbre;
    if (timbre.sound.voice !== sound.voice || timbre.many !== many) this.source = make(this.rate, timbre);
    this.timbre = bounded(timbre);
    this.source.set(this.timbre.sound);
    this.level.to(this.loud);
    this.echo.set((this.timbre.sound.delay / 100) * 0.5);
  }

  strike(note: Struck): void {
    if (!this.awake) this.settle();
    // Whoever struck it lets go of it by the same object.
    note.midi = within(note.midi, 0, 127, 60);
    note.velocity = within(note.velocity, 0, 127, 0);
    this.source.strike(note);
    this.left = Math.max(this.left, 1);
  }

  /** While nothing sounds, values that were set are there at once. */
  private settle(): void {
    for (const value of [this.level, this.expression, this.volume, this.pan]) value.settle();
    this.echo.settle();
    this.source.settle();
  }

  let(note: Struck): void {
    this.source.let(note);
  }

  /** Takes what happens to a voice beside its notes. */
  act(act: Exclude<Act, { do: "strike" }>): void {
    switch (act.do) {
      case "bend":
        this.source.bend(within(act.value, -8192, 8191, 0));
        break;
      case "press":
        this.source.press(within(act.value, 0, 127, 0));
        break;
      case "silence":
        this.silence();
        break;
      case "controller":
        this.control(act.controller, within(act.value, 0, 127, 0));
        break;
      case "rest":
        this.rest();
        break;
    }
  }

  private control(controller: number, value: number): void {
    if (controller === 7) this.volume.to((value / 100) ** 1.6);
    else if (controller === 10) this.pan.to(Math.max((value - 64) / 63, -1));
    else if (controller === 11) this.expression.to((value / 127) ** 1.6);
    else this.source.control(controller, value);
  }

  /** Lets go of all that is held, and of what a port is told to put back then. */
  silence(): void {
    this.source.silence();
    this.source.bend(0);
    this.source.press(0);
    for (const controller of SILENCED) this.source.control(controller, 0);
  }

  /** Puts back all that was moved: the next start has it as the first one had. */
  rest(): void {
    this.source.bend(0);
    this.source.press(0);
    for (const [controller, value] of RESTS) this.control(controller, value);
  }

  /** Begins anew where what it made is not finite, so that nothing holds or passes that on. */
  private renew(n: number): void {
    this.source = make(this.rate, this.timbre);
    this.source.set(this.timbre.sound);
    this.grain.fill(0, 0, n);
  }

  /** Whether anything may be heard. */
  get awake(): boolean {
    return this.left > 0;
  }

  /** Adds n samples, at most GRAIN, from a place on. */
  render(left: Float32Array, right: Float32Array, from: number, n: number): void {
    const { grain } = this;
    if (this.source.render(grain, n)) this.left = Math.max(this.echo.tail * this.rate, 1);
    else {
      grain.fill(0, 0, n);
      this.left -= n;
    }
    let sum = 0;
    for (let i = 0; i < n; i++) sum += grain[i]! *= this.level.next();
    if (!Number.isFinite(sum)) this.renew(n);
    this.echo.render(grain, n);
    for (let i = 0; i < n; i++) {
      const v = grain[i]! * this.expression.next() * this.volume.next();
      const turn = ((this.pan.next() + 1) * Math.PI) / 4;
      left[from + i]! += v * Math.cos(turn);
      right[from + i]! += v * Math.sin(turn);
    }
  }
}
