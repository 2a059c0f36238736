import { make } from "./make";
import { Echo, Smooth } from "./parts/echo";
import type { Act, Timbre } from "./protocol";
import { GRAIN, type Source, type Struck } from "./source";

/** A lane as it sounds: its source, then level, echo, expression (11), volume (7) and pan (10). */
export class Lane {
  private source: Source;
  private readonly echo: Echo;
  private readonly level: Smooth;
  private readonly expression: Smooth;
  private readonly volume: Smooth;
  private readonly pan: Smooth;
  private readonly grain = new Float32Array(GRAIN);
  /** For how many samples something may still be heard. */
  private left = 0;

  constructor(
    private readonly rate: number,
    private timbre: Timbre,
  ) {
    const speed = 1 / (0.01 * rate);
    this.source = make(rate, timbre);
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
    this.timbre = timbre;
    this.source.set(timbre.sound);
    this.level.to(this.loud);
    this.echo.set((timbre.sound.delay / 100) * 0.5);
  }

  strike(note: Struck): void {
    this.source.strike(note);
    this.left = Math.max(this.left, 1);
  }

  let(note: Struck): void {
    this.source.let(note);
  }

  /** Takes what happens to a voice beside its notes. */
  act(act: Exclude<Act, { do: "strike" }>): void {
    switch (act.do) {
      case "bend":
        this.source.bend(act.value);
        break;
      case "press":
        this.source.press(act.value);
        break;
      case "silence":
        this.silence();
        break;
      case "controller":
        this.control(act.controller, act.value);
        break;
    }
  }

  private control(controller: number, value: number): void {
    if (controller === 7) this.volume.to((value / 100) ** 1.6);
    else if (controller === 10) this.pan.to(Math.max((value - 64) / 63, -1));
    else if (controller === 11) this.expression.to((value / 127) ** 1.6);
    else this.source.control(controller, value);
  }

  /** Lets go of all that is held. */
  silence(): void {
    this.source.silence();
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
    for (let i = 0; i < n; i++) grain[i]! *= this.level.next();
    this.echo.render(grain, n);
    for (let i = 0; i < n; i++) {
      const v = grain[i]! * this.expression.next() * this.volume.next();
      const turn = ((this.pan.next() + 1) * Math.PI) / 4;
      left[from + i]! += v * Math.cos(turn);
      right[from + i]! += v * Math.sin(turn);
    }
  }
}
