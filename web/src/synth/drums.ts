import { pace } from "./parts/envelope";
import { Filter } from "./parts/filter";
import type { Noise } from "./parts/wave";

/** One stroke that sounds: it adds its samples, and tells whether there are more. */
export type Stroke = (out: Float32Array, n: number) => boolean;

/** A drum: how it is struck, as hard as force (0..1) and tuned by so many semitones. */
export type Drum = (force: number, tuned: number, rate: number, noise: Noise) => Stroke;

const NOTHING = 1e-4;

/** How long the attack of a stroke lasts, in seconds. */
const ATTACK = 0.001;

/** A stroke's level: up at once, then away. */
function fade(force: number, decay: number, rate: number): () => number {
  const speed = pace(decay, rate);
  const rise = force / (ATTACK * rate);
  let level = 0;
  let rising = true;
  return () => {
    if (rising) {
      level += rise;
      if (level >= force) rising = false;
    } else level -= level * speed;
    return rising ? Math.max(level, NOTHING * 2) : level;
  };
}

/** A struck skin: a tone that falls over so many octaves' factor. */
const skin =
  (hertz: number, high: number, decay: number): Drum =>
  (force, tuned, rate) => {
    const low = hertz * 2 ** (tuned / 12);
    const level = fade(force, decay, rate);
    const falls = (1 / high) ** (1 / (0.03 * rate));
    let now = low * high;
    let phase = 0;
    return (out, n) => {
      let l = 0;
      for (let i = 0; i < n; i++) {
        l = level();
        out[i]! += Math.sin(2 * Math.PI * phase) * l;
        phase = (phase + now / rate) % 1;
        now = Math.max(now * falls, low);
      }
      return l > NOTHING;
    };
  };

/** Filtered noise: brushes, hats, claps, which are several strokes 11 ms apart. */
const hiss =
  (way: "high" | "band", hertz: number, decay: number, loud: number, strokes = 1): Drum =>
  (force, tuned, rate, noise) => {
    const filter = new Filter(rate);
    filter.tune(Math.min(hertz * 2 ** (tuned / 12), 18000), way === "high" ? 1 : 0);
    const gap = Math.round(0.011 * rate);
    let level = fade(force * loud * (strokes > 1 ? 0.6 : 1), decay, rate);
    let [at, stroke] = [0, 0];
    return (out, n) => {
      let l = 0;
      for (let i = 0; i < n; i++, at++) {
        if (at === gap && stroke < strokes - 1) {
          [at, stroke] = [0, stroke + 1];
          level = fade(force * loud * (stroke === strokes - 1 ? 1 : 0.6), decay, rate);
        }
        l = level();
        const high = filter.next(noise.next());
        out[i]! += (way === "high" ? high : filter.band) * l;
      }
      return l > NOTHING || stroke < strokes - 1;
    };
  };

/** A short tone: rim and click. */
const tick =
  (hertz: number, decay: number, loud: number): Drum =>
  (force, tuned, rate) => {
    const step = (hertz * 2 ** (tuned / 12)) / rate;
    const level = fade(force * loud, decay, rate);
    let phase = 0;
    return (out, n) => {
      let l = 0;
      for (let i = 0; i < n; i++) {
        l = level();
        out[i]! += (4 * Math.abs(phase - 0.5) - 1) * l;
        phase = (phase + step) % 1;
      }
      return l > NOTHING;
    };
  };

/** The drums of the kit, at their usual MIDI numbers; others sound like the nearest of them, tuned. */
export const drums: Readonly<Record<number, Drum>> = {
  33: tick(1900, 0.03, 0.5),
  36: skin(33, 5, 0.32),
  37: tick(820, 0.05, 0.9),
  38: hiss("band", 1400, 0.14, 0.9),
  39: hiss("band", 1100, 0.12, 0.9, 3),
  42: hiss("high", 7000, 0.035, 0.45),
  45: skin(98, 2, 0.28),
  46: hiss("high", 6500, 0.28, 0.4),
  49: hiss("high", 4200, 0.9, 0.4),
};
