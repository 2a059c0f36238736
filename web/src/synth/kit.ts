import { drums, type Stroke } from "./drums";
import { Noise } from "./parts/wave";
import { Wheel } from "./parts/wheel";
import type { Source, Struck } from "./source";

/** The most strokes that sound at once; the oldest gives way. */
const MOST = 24;

const numbers = Object.keys(drums).map(Number);

/** The drums that a lane can be heard with, bent by the wheel. What is struck dies away by itself. */
export class Kit implements Source {
  readonly gain = 1;
  private readonly noise = new Noise();
  private readonly wheel: Wheel;
  private strokes: Stroke[] = [];

  constructor(private readonly rate: number) {
    this.wheel = new Wheel(rate);
  }

  set(): void {
    // Drums have no settings but their level and echo.
  }

  strike({ midi, velocity }: Struck): void {
    const nearest = numbers.reduce((best, n) => (Math.abs(n - midi) < Math.abs(best - midi) ? n : best));
    const tuned = midi - nearest + this.wheel.next(0);
    this.strokes.push(drums[nearest]!((velocity / 127) ** 1.5, tuned, this.rate, this.noise));
    if (this.strokes.length > MOST) this.strokes.shift();
  }

  let(): void {
    // Drums die away by themselves.
  }

  silence(): void {
    // What was struck dies away.
  }

  bend(value: number): void {
    this.wheel.bend(value);
  }

  press(): void {
    // Drums are not pressed.
  }

  control(controller: number, value: number): void {
    this.wheel.control(controller, value);
  }

  render(out: Float32Array, n: number): boolean {
    if (!this.strokes.length) return false;
    out.fill(0, 0, n);
    this.strokes = this.strokes.filter((stroke) => stroke(out, n));
    return true;
  }
}
