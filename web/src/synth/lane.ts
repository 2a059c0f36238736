import { make } from "./make";
import { Drive } from "./parts/drive";
import { Echo } from "./parts/echo";
import { within } from "./parts/pitch";
import { Smooth } from "./parts/smooth";
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

/** The level at which voices are as loud as they are made, and the power by which they are louder above it: 100 is
 * 8.4 dB over it. */
const USUAL_LEVEL = 70;
const STEEPNESS = 2.7;

/** How much lower all lanes are than they are made, so that half a dozen of them stay under full scale together. */
const HEADROOM = 0.6;

/** How much of a lane goes into the room at 100. */
const INTO_ROOM = 0.9;

/** The settings of a sound within their range, whatever they are. */
function bounded(timbre: Timbre): Timbre {
  const sound = { ...timbre.sound };
  for (const [name, value] of Object.entries(sound))
    if (typeof value === "number") Object.assign(sound, { [name]: within(value, name === "pan" ? -100 : 0, 100, 0) });
  return { ...timbre, sound, echo: within(timbre.echo, 0, 60, 0.4) };
}

/** Where a lane's samples go: to both sides, and into the room, from a place in each on. */
export interface Outputs {
  left: Float32Array;
  right: Float32Array;
  room: Float32Array;
}

/** A lane as it sounds: its source, then drive, level, echo, expression (11), volume (7) and pan (10). */
export class Lane {
  private source: Source;
  private readonly drive: Drive;
  private readonly echo: Echo;
  private readonly level: Smooth;
  private readonly expression: Smooth;
  private readonly volume: Smooth;
  private readonly pan: Smooth;
  private readonly room: Smooth;
  private readonly grain = new Float32Array(GRAIN);
  private readonly side = new Float32Array(GRAIN);
  private timbre: Timbre;
  /** How loud it goes to both sides and into the room. */
  private readonly to = new Float64Array(3);
  private panned = 0; // by controller 10, -1..1
  /** For how many samples something may still be heard. */
  private left = 0;
  /** The highest sample since it was last asked. */
  private highest = 0;

  constructor(
    private readonly rate: number,
    timbre: Timbre,
  ) {
    this.timbre = bounded(timbre);
    this.source = make(rate, this.timbre);
    this.drive = new Drive(rate);
    this.echo = new Echo(rate);
    const smooth = (value: number) => Smooth.within(0.01, rate, value);
    this.level = smooth(0);
    this.expression = smooth(1);
    this.volume = smooth(1);
    this.pan = smooth(0);
    this.room = smooth(0);
    this.set(timbre);
    this.level.settle();
  }

  set(timbre: Timbre): void {
    const { sound, many } = this.timbre;
    if (timbre.sound.voice !== sound.voice || timbre.many !== many) this.source = make(this.rate, timbre);
    this.timbre = bounded(timbre);
    const now = this.timbre.sound;
    this.source.set(now);
    this.drive.set(now.drive);
    this.level.to(HEADROOM * (now.level / USUAL_LEVEL) ** STEEPNESS);
    this.echo.set((now.delay / 100) * 0.5, now.feedback / 100, this.timbre.echo);
    this.room.to((now.reverb / 100) ** 1.5 * INTO_ROOM);
    this.turn();
  }

  private turn(): void {
    this.pan.to(Math.min(Math.max(this.panned + this.timbre.sound.pan / 100, -1), 1));
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
    for (const value of [this.level, this.expression, this.volume, this.pan, this.room]) value.settle();
    this.goals(1);
    this.drive.settle();
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
      case "lift":
        this.source.lift(act.midi);
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
    else if (controller === 10) {
      this.panned = Math.max((value - 64) / 63, -1);
      this.turn();
    } else if (controller === 11) this.expression.to((value / 127) ** 1.6);
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

  /** Brings n samples to the lane's level; where they are not finite, all begins anew. */
  private raise(n: number): void {
    const { grain, side, level } = this;
    const { spread } = this.source;
    let loud = level.value;
    const rise = (level.after(n) - loud) / n;
    let sum = 0;
    for (let i = 0; i < n; i++) {
      loud += rise;
      sum += grain[i]! *= loud;
      if (spread) sum += side[i]! *= loud;
    }
    if (!Number.isFinite(sum)) this.renew(n);
  }

  /** How loud it goes to both sides and into the room, once n samples have passed. */
  private goals(n: number): void {
    const loud = this.expression.after(n) * this.volume.after(n);
    const turn = ((this.pan.after(n) + 1) * Math.PI) / 4;
    this.to[0] = loud * Math.cos(turn);
    this.to[1] = loud * Math.sin(turn);
    this.to[2] = loud * this.room.after(n);
  }

  /** Begins anew where what it made is not finite, so that nothing holds or passes that on. */
  private renew(n: number): void {
    this.source = make(this.rate, this.timbre);
    this.source.set(this.timbre.sound);
    this.grain.fill(0, 0, n);
    this.side.fill(0, 0, n);
  }

  /** Whether anything may be heard. */
  get awake(): boolean {
    return this.left > 0;
  }

  /** How many notes sound. */
  get count(): number {
    return this.awake ? this.source.count : 0;
  }

  /** Lets as many notes as wanted give way; it reports how many did. */
  thin(wanted: number): number {
    return this.source.thin(wanted);
  }

  /** The highest sample since it was last asked. */
  peak(): number {
    const { highest } = this;
    this.highest = 0;
    return highest;
  }

  /** Adds n samples, at most GRAIN, from a place on; the room's begin at its start. It reports whether anything
   * went into the room. */
  render({ left, right, room }: Outputs, from: number, n: number): boolean {
    const { grain, side } = this;
    if (this.source.render(grain, side, n)) this.left = Math.max(this.echo.tail * this.rate, this.rate / 10);
    else {
      grain.fill(0, 0, n);
      if (this.source.spread) side.fill(0, 0, n);
      this.left -= n;
    }
    const { spread } = this.source;
    if (!spread) this.drive.render(grain, n);
    this.raise(n);
    this.echo.render(grain, n);
    const sends = !this.room.still;
    let { highest } = this;
    let [toLeft, toRight, toRoom] = [this.to[0]!, this.to[1]!, this.to[2]!];
    this.goals(n);
    const leftStep = (this.to[0]! - toLeft) / n;
    const rightStep = (this.to[1]! - toRight) / n;
    const roomStep = (this.to[2]! - toRoom) / n;
    for (let i = 0; i < n; i++) {
      toLeft += leftStep;
      toRight += rightStep;
      const v = grain[i]!;
      const apart = spread ? side[i]! * Math.min(toLeft, toRight) : 0;
      const l = v * toLeft + apart;
      const r = v * toRight - apart;
      left[from + i]! += l;
      right[from + i]! += r;
      if (sends) room[i]! += v * (toRoom += roomStep);
      const size = Math.max(l, -l, r, -r);
      if (size > highest) highest = size;
    }
    this.highest = highest;
    return sends;
  }
}
