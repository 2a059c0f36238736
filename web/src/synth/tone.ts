import type { Sound } from "../api/gen/piece.gen";
import { type Body, waves } from "./bodies";
import { DAMPED, dampingOf, type Knobs } from "./knobs";
import { bent } from "./parts/drive";
import { Envelope } from "./parts/envelope";
import { warped } from "./parts/filter";
import { hertzOf } from "./parts/pitch";
import { Path } from "./parts/slide";
import { add, moved, PERIOD, pure } from "./parts/wave";
import { force, GRAIN, type Struck, USUAL } from "./source";
import { msOf } from "./times";

/** The key at which a filter is as open as its cutoff says, and how far it follows keys above and below it. */
const MIDDLE = 48;
const FOLLOWS = 0.5;

/** From which velocity on a note is an accent. */
const ACCENT = 110;

/** What a full accent does: octaves more, resonance more, and a decay that is shorter. */
const ACCENTED = { opens: 2, rings: 0.3, shorter: 0.3 };

/** How far velocity moves the filter's rest and its opening, at a touch of 100 on the filter. */
const REST_MOVES = 1.2;
const OPENING_MOVES = 1.6;

/** By how much a filter whose resonance rings is lowered, so that it is about as loud as without. */
const TAMED = 0.25;

/** How long what gives way to another note still sounds, in seconds. */
const GIVES_WAY = 0.003;

/** How fast a note that is slid to takes its own velocity, in seconds. */
const SLIDES = 0.012;

/** Above this many Hz the operators' overtones would fold back: they are drawn in towards it. */
const FOLDS = 750;

/** What is worked out for one note at a time: its oscillators, and how its filters stand. */
const wave = new Float64Array(GRAIN);
const tuned = { from: 0, to: 0, first: 0, second: 0, gain: 0 };

/** One note while it sounds: up to three oscillators, a filter with an envelope, and an envelope of its level. */
export class Tone {
  private readonly amp: Envelope;
  private readonly opening: Envelope;
  private path: Path;
  private readonly phases = [0, PERIOD / 4, PERIOD / 4];
  /** Whether it gives way. */
  going = false;
  /** The pitch at which it was last worked out, in MIDI numbers, without what bends it. */
  last: number;
  private loud = 0;
  private loudness = 0;
  private accent = 0;
  private pushed = 0; // by how many octaves velocity moves the filter's rest
  private stretch = 1; // and by how much its opening
  private g = 0;
  private hertz = 0;
  private readonly apart: number;
  // The state of two filters, one after the other.
  private a = 0;
  private b = 0;
  private c = 0;
  private d = 0;

  constructor(
    private readonly rate: number,
    private readonly body: Body,
    private sound: Sound,
    public struck: Struck,
  ) {
    this.amp = new Envelope(rate);
    this.opening = new Envelope(rate);
    this.path = new Path(struck.slides, rate);
    this.last = struck.midi;
    this.apart = 2 ** (body.apart / 12);
    this.feel(struck.velocity);
    this.loudness = this.loud;
    this.set(sound);
    this.amp.strike();
    this.opening.strike();
  }

  /** Takes a velocity. */
  private feel(velocity: number): void {
    const { sound } = this;
    const share = sound.accent / 100;
    this.loud = force(velocity, sound.touch);
    this.accent = velocity >= ACCENT ? share : 0;
    this.pushed = ((velocity - USUAL) / 127) * REST_MOVES * share;
    this.stretch = Math.max(1 + ((velocity - USUAL) / 127) * OPENING_MOVES * share, 0);
  }

  set(sound: Sound): void {
    this.sound = sound;
    const { amp, opening, body } = this;
    amp.attack = msOf("attack", sound.attack) / 1000;
    amp.decay = msOf("decay", sound.decay) / 1000;
    amp.sustain = sound.sustain / 100;
    amp.release = msOf("release", sound.release) / 1000;
    opening.attack = amp.attack;
    opening.decay = amp.decay * (1 - ACCENTED.shorter * this.accent);
    opening.sustain = amp.sustain * body.stays;
    opening.release = amp.release;
    amp.renew();
    opening.renew();
  }

  /** Goes on as another note, without a new attack. */
  become(struck: Struck): void {
    this.struck = struck;
    this.path = new Path(struck.slides, this.rate);
    this.feel(struck.velocity);
  }

  let(): void {
    this.amp.let();
    this.opening.let();
  }

  /** Gives way at once to another note. */
  giveWay(): void {
    this.going = true;
    this.amp.let(GIVES_WAY);
  }

  get over(): boolean {
    return this.amp.over;
  }

  /** Adds n samples, at a pitch in MIDI numbers. */
  render(knobs: Knobs, pitch: number, out: Float32Array, n: number): void {
    const { body, rate, amp } = this;
    const at = pitch + this.path.next(n);
    this.tuneTo(knobs, at, n);
    const gain = body.gain * tuned.gain;
    this.oscillate(knobs, at, gain, n);
    const target = this.loudness + (this.loud - this.loudness) * (1 - Math.exp(-n / (SLIDES * rate)));
    const rise = (target - this.loudness) / n;
    let { loudness, a, b, c, d } = this;
    const { from, to, first, second } = tuned;
    const { steep } = body;
    const step = (to - from) / n;
    let g = from;
    for (let i = 0; i < n; i++) {
      g += step;
      let x = wave[i]!;
      const high = (x - (first + g) * a - b) / (1 + g * (g + first));
      const band = g * high + a;
      a = band + g * high;
      x = g * band + b;
      b = x + g * band;
      if (steep) {
        const high2 = (x - (second + g) * c - d) / (1 + g * (g + second));
        const band2 = g * high2 + c;
        c = band2 + g * high2;
        x = g * band2 + d;
        d = x + g * band2;
      }
      loudness += rise;
      out[i]! += x * amp.next() * loudness;
    }
    this.a = a;
    this.b = b;
    this.c = c;
    this.d = d;
    this.loudness = target;
  }

  /** Writes n samples of the oscillators to wave. */
  private oscillate(knobs: Knobs, pitch: number, gain: number, n: number): void {
    const { body, phases, rate, sound } = this;
    const { oscillator, side, bends } = body;
    wave.fill(0, 0, n);
    if (oscillator.of === "operators") {
      const hertz = hertzOf(pitch, rate);
      const step = (hertz / rate) * PERIOD;
      const index = oscillator.index * this.opening.level * Math.min(FOLDS / hertz, 1);
      phases[1] = moved(wave, pure.at(2), phases, step, oscillator.ratio, index, gain, n);
      return;
    }
    const chosen = oscillator.of === "chosen" ? waves[sound.wave]! : null;
    const tables = chosen?.table ?? (oscillator.of === "own" ? oscillator.table : pure);
    const width = chosen?.pulse ? Math.round(knobs.width * PERIOD * 64) / 64 : 0;
    const share = (gain * (chosen?.gain ?? 1)) / (1 + side);
    const hertz = hertzOf(pitch, rate);
    const was = this.hertz || hertz;
    this.hertz = hertz;
    for (let k = 0; k < (side ? 3 : 1); k++) {
      const off = k === 0 ? 1 : k === 1 ? this.apart : 1 / this.apart;
      const table = tables.at(rate / (Math.max(hertz, was) * off));
      const from = ((was * off) / rate) * PERIOD;
      const to = ((hertz * off) / rate) * PERIOD;
      phases[k] = add(wave, table, phases[k]!, from, to, width, k ? share * side : share, n);
    }
    if (bends) for (let i = 0; i < n; i++) wave[i] = (bent((wave[i]! / share) * bends) / bends) * share;
  }

  /** Works out how the filters stand at the beginning and at the end of n samples. */
  private tuneTo(knobs: Knobs, pitch: number, n: number): void {
    const { body, rate, accent } = this;
    const open = this.opening.skip(n);
    const octaves =
      knobs.cut +
      ((pitch - MIDDLE) / 12) * FOLLOWS +
      this.pushed +
      (knobs.opens * this.stretch + ACCENTED.opens * accent) * open;
    const g = warped(2 ** Math.min(octaves, 16), rate);
    tuned.from = this.g || g;
    tuned.to = g;
    this.g = g;
    const resonance = Math.min(knobs.resonance + ACCENTED.rings * accent, 1);
    const k = accent ? dampingOf(resonance) : knobs.damping;
    tuned.first = body.steep ? DAMPED : k;
    tuned.second = k;
    tuned.gain = 1 - TAMED * resonance;
  }
}
