import { drums, type Stroke } from "./drums";
import { Noise } from "./parts/wave";
import { Wheel } from "./parts/wheel";
import type { Sound } from "../api/gen/piece.gen";
import { CLOSING, OPEN_HAT, percussion } from "./percussion";
import { force, GRAIN, type Source, type Struck } from "./source";

/** The most strokes that sound at once; the oldest gives way. */
const MOST = 24;

const numbers = Object.keys(drums).map(Number);

/** How long an open hat goes on that is closed, in seconds, and below what nothing of it is heard. */
const CLOSES = 0.008;
const NOTHING = 1e-3;

/** A stroke that sounds, of a note; gain below 1: it has been closed, and goes. */
interface Sounding {
  note: number;
  strokes: Stroke[];
  pan: number;
  gain: number;
}

/** The drum of the kit that a note is, and how it is tuned: by the percussion map, or else the nearest. */
export function drumOf(note: number): readonly [drum: number, tuned: number] {
  const own = percussion[note];
  if (own) return own;
  const nearest = numbers.reduce((best, n) => (Math.abs(n - note) < Math.abs(best - note) ? n : best));
  return [nearest, note - nearest];
}

/** The drums that a lane can be heard with, bent by the wheel. What is struck dies away by itself. */
export class Kit implements Source {
  readonly spread = true;
  private touch = 50;
  private readonly noise = new Noise();
  private readonly wheel: Wheel;
  private strokes: Sounding[] = [];
  private readonly grain = new Float32Array(GRAIN);

  constructor(private readonly rate: number) {
    this.wheel = new Wheel(rate);
  }

  set(sound: Sound): void {
    this.touch = sound.touch;
  }

  strike({ midi, velocity }: Struck): void {
    const [drum, tuned] = drumOf(midi);
    if (CLOSING.includes(midi))
      for (const open of this.strokes) if (open.note === OPEN_HAT) open.gain = Math.min(open.gain, 0.99);
    const { pan, parts } = drums[drum]!;
    const level = force(velocity, this.touch);
    const at = tuned + this.wheel.next(0);
    const strokes = parts.map((part) => part(level, at, this.rate, this.noise));
    this.strokes.push({ note: midi, strokes, pan, gain: 1 });
    if (this.strokes.length > MOST) this.strokes.shift();
  }

  let(): void {
    // Drums die away by themselves.
  }

  lift(): void {
    // Nor do they end with the key.
  }

  silence(): void {
    // What was struck dies away.
  }

  get count(): number {
    return 0; // strokes are few, and cost little
  }

  thin(): number {
    return 0;
  }

  settle(): void {
    this.wheel.settle();
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

  render(out: Float32Array, side: Float32Array, n: number): boolean {
    if (!this.strokes.length) return false;
    out.fill(0, 0, n);
    side.fill(0, 0, n);
    this.strokes = this.strokes.filter((own) => this.add(own, out, side, n));
    return true;
  }

  /** Adds what sounds of a stroke, and reports whether there is more. */
  private add(own: Sounding, out: Float32Array, side: Float32Array, n: number): boolean {
    const { grain } = this;
    grain.fill(0, 0, n);
    own.strokes = own.strokes.filter((stroke) => stroke(grain, n));
    const falls = Math.exp(-1 / (CLOSES * 0.2 * this.rate));
    for (let i = 0; i < n; i++) {
      if (own.gain < 1) own.gain *= falls;
      const v = grain[i]! * own.gain;
      out[i]! += v;
      side[i]! -= v * own.pan;
    }
    return own.strokes.length > 0 && own.gain > NOTHING;
  }
}
