import type { Sound } from "../api/gen/piece.gen";
import { Filter } from "./parts/filter";
import { hertzOf } from "./parts/pitch";
import { Path } from "./parts/slide";
import { PERIOD, Tables } from "./parts/wave";
import { Wheel } from "./parts/wheel";
import { Touch, type Source, type Struck } from "./source";
import type { Body } from "./timbres";

/** The most notes that are held at once; the oldest gives way. */
const MOST = 32;

/** Below this nothing is heard. */
const NOTHING = 1e-5;

/** The highest that a filter opens when struck, and where it comes to rest, in Hz. */
const STRUCK = 16000;
const REST = 12000;

/** One note: two oscillators through a filter of its own. */
interface Note {
  struck: Struck;
  path: Path;
  filter: Filter;
  phases: [number, number];
  hertz: number;
  rest: number;
  level: number;
  loud: number;
  attacking: boolean;
  let: boolean;
}

/**
 * A voice for several notes. It honours velocity, the wheel with its range, modulation (1), the pedal (64),
 * resonance (71), brightness (74), pressure, and the bend that each note has of its own. Portamento (5, 65)
 * is for single voices.
 */
export class Poly implements Source {
  readonly gain = 0.42;
  private readonly wheel: Wheel;
  private readonly touch = new Touch();
  private notes: Note[] = [];
  private waiting: Note[] = []; // ended while the pedal held them
  private pedal = false;
  private sound: Sound | null = null;
  private tables = new Tables([1]);

  constructor(
    private readonly rate: number,
    private readonly body: Body,
  ) {
    this.wheel = new Wheel(rate);
  }

  set(sound: Sound): void {
    if (sound.wave !== this.sound?.wave) this.tables = new Tables(this.body.partials(sound.wave));
    this.sound = sound;
  }

  strike(struck: Struck): void {
    const { sound, body, rate } = this;
    if (!sound) return;
    const held = this.notes.filter((n) => !n.let);
    for (const old of held) if (old.struck.midi === struck.midi) old.let = true;
    if (held.length >= MOST) held[0]!.let = true;
    const force = struck.velocity / 127;
    const open = 220 * 2 ** ((sound.cutoff / 100) * 5.6);
    const bright = open * 2 ** ((sound.envelope / 100) * 2.4 * force + (struck.midi - 60) / 36);
    const hertz = Math.min(bright, STRUCK);
    this.notes.push({
      struck,
      path: new Path(struck.slides, rate),
      filter: new Filter(rate),
      phases: [0, 0.37],
      hertz,
      rest: body.decays ? Math.min(open, REST) : hertz,
      level: 0,
      loud: 0.03 + 0.12 * force ** 1.5,
      attacking: true,
      let: false,
    });
  }

  let(struck: Struck): void {
    const note = this.notes.find((n) => n.struck === struck);
    if (!note) return;
    if (this.pedal) this.waiting.push(note);
    else note.let = true;
  }

  silence(): void {
    for (const note of this.notes) note.let = true;
    this.waiting = [];
  }

  settle(): void {
    this.wheel.settle();
    this.touch.settle();
  }

  bend(value: number): void {
    this.wheel.bend(value);
  }

  press(value: number): void {
    this.touch.press(value);
  }

  control(controller: number, value: number): void {
    if (this.wheel.control(controller, value) || this.touch.control(controller, value)) return;
    if (controller !== 64) return;
    this.pedal = value >= 64;
    if (!this.pedal) for (const note of this.waiting.splice(0)) note.let = true;
  }

  render(out: Float32Array, n: number): boolean {
    const { sound } = this;
    if (!this.notes.length || !sound) return false;
    const bend = this.wheel.next(n);
    const open = this.touch.next();
    const sharp = Math.max(0.3 + (sound.resonance / 100) * 6 + this.touch.resonance / 12, 0.1);
    const decay = 0.15 + (sound.decay / 100) * this.body.decays;
    out.fill(0, 0, n);
    for (const note of this.notes) {
      note.hertz += (note.rest - note.hertz) * Math.min(n / (decay * 0.6 * this.rate), 1);
      note.filter.tune(note.hertz * open, sharp);
      this.add(note, bend + note.path.next(n), decay, out, n);
    }
    this.notes = this.notes.filter((note) => !note.let || note.level > NOTHING);
    return true;
  }

  private add(note: Note, bend: number, decay: number, out: Float32Array, n: number): void {
    const { body, rate } = this;
    const hertz = hertzOf(note.struck.midi + bend - body.apart / 2, rate);
    const [step, other] = [hertz, hertzOf(note.struck.midi + bend + body.apart / 2, rate)].map(
      (h) => (h / rate) * PERIOD,
    ) as [number, number];
    const table = this.tables.at(hertz, rate);
    const rise = note.loud / (body.attack * rate);
    const target = note.let ? 0 : body.decays ? note.loud * body.holds : note.loud;
    const speed = 1 / ((note.let ? body.release / 3 : decay) * rate);
    let [p, q] = [note.phases[0] * PERIOD, note.phases[1] * PERIOD];
    let { level } = note;
    for (let i = 0; i < n; i++) {
      if (note.attacking && !note.let) {
        level += rise;
        if (level >= note.loud) {
          level = note.loud;
          note.attacking = false;
        }
      } else level += (target - level) * speed;
      const [a, b] = [p | 0, q | 0];
      const x = table[a]! + (table[a + 1]! - table[a]!) * (p - a) + table[b]! + (table[b + 1]! - table[b]!) * (q - b);
      if ((p += step) >= PERIOD) p -= PERIOD;
      if ((q += other) >= PERIOD) q -= PERIOD;
      note.filter.next(x);
      out[i]! += note.filter.low * level;
    }
    note.level = level;
    note.phases = [p / PERIOD, q / PERIOD];
  }
}
