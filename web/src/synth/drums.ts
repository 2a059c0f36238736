import { pace } from "./parts/envelope";
import { Filter } from "./parts/filter";
import type { Noise } from "./parts/wave";

/** One stroke that sounds: it adds its samples, and tells whether there are more. */
export type Stroke = (out: Float32Array, n: number) => boolean;

/** What of a drum sounds: struck as hard as a level, tuned by so many semitones. */
type Part = (level: number, tuned: number, rate: number, noise: Noise) => Stroke;

/** A drum of the kit. */
export interface Drum {
  /** What sounds of it. */
  parts: readonly Part[];
  /** Where it stands: -1 left, 1 right. */
  pan: number;
}

const NOTHING = 1e-4;

/** How long the attack of a stroke lasts, in seconds. */
const ATTACK = 0.001;

/** A stroke's level: up at once, then away to 1/e in so many seconds. */
function fade(top: number, decay: number, rate: number): () => number {
  const speed = pace(decay, rate);
  const rise = top / (ATTACK * rate);
  let level = 0;
  let rising = true;
  return () => {
    if (rising) {
      level += rise;
      if (level >= top) rising = false;
    } else level -= level * speed;
    return rising ? Math.max(level, NOTHING * 2) : level;
  };
}

/** A struck skin: a tone that falls by a factor over so many seconds. */
const skin =
  (loud: number, hertz: number, high: number, falls: number, decay: number): Part =>
  (level, tuned, rate) => {
    const low = hertz * 2 ** (tuned / 12);
    const fades = fade(level * loud, decay, rate);
    const slower = Math.exp(-1 / (falls * rate));
    let over = low * (high - 1);
    let phase = 0;
    return (out, n) => {
      let l = 0;
      for (let i = 0; i < n; i++) {
        l = fades();
        out[i]! += Math.sin(2 * Math.PI * phase) * l;
        phase = (phase + (low + over) / rate) % 1;
        over *= slower;
      }
      return l > NOTHING;
    };
  };

/** Filtered noise: brushes, hats, claps, which are several strokes 11 ms apart. */
const hiss =
  (loud: number, way: "high" | "band", hertz: number, decay: number, strokes = 1): Part =>
  (level, tuned, rate, noise) => {
    const filter = new Filter(rate);
    filter.tune(Math.min(hertz * 2 ** (tuned / 12), 18000), way === "high" ? 1 : 0);
    const gap = Math.round(0.011 * rate);
    let fades = fade(level * loud * (strokes > 1 ? 0.6 : 1), decay, rate);
    let [at, stroke] = [0, 0];
    return (out, n) => {
      let l = 0;
      for (let i = 0; i < n; i++, at++) {
        if (at === gap && stroke < strokes - 1) {
          [at, stroke] = [0, stroke + 1];
          fades = fade(level * loud * (stroke === strokes - 1 ? 1 : 0.6), decay, rate);
        }
        l = fades();
        const high = filter.next(noise.next());
        out[i]! += (way === "high" ? high : filter.band) * l;
      }
      return l > NOTHING || stroke < strokes - 1;
    };
  };

/** A short tone: rim and click. */
const tick =
  (loud: number, hertz: number, decay: number): Part =>
  (level, tuned, rate) => {
    const step = (hertz * 2 ** (tuned / 12)) / rate;
    const fades = fade(level * loud, decay, rate);
    let phase = 0;
    return (out, n) => {
      let l = 0;
      for (let i = 0; i < n; i++) {
        l = fades();
        out[i]! += (4 * Math.abs(phase - 0.5) - 1) * l;
        phase = (phase + step) % 1;
      }
      return l > NOTHING;
    };
  };

/** The notes of the clicks that count: of a beat, and of the first beat of a bar. */
export const CLICK = 33;
export const FIRST_BEAT = 34;

/** The drums of the kit, at their usual MIDI numbers; others sound like the nearest of them, tuned. */
export const drums: Readonly<Record<number, Drum>> = {
  33: { pan: 0, parts: [tick(0.82, 1900, 0.022)] },
  36: { pan: 0, parts: [skin(0.66, 52, 5, 0.03, 0.13), skin(0.26, 170, 3, 0.01, 0.02)] },
  37: { pan: 0.15, parts: [tick(0.95, 820, 0.03)] },
  38: { pan: -0.08, parts: [hiss(0.85, "band", 1600, 0.07), skin(0.45, 185, 1.5, 0.02, 0.07)] },
  39: { pan: 0.2, parts: [hiss(1.4, "band", 1200, 0.08, 3)] },
  42: { pan: 0.3, parts: [hiss(0.45, "high", 7000, 0.025)] },
  45: { pan: -0.3, parts: [skin(0.65, 98, 2, 0.03, 0.13)] },
  46: { pan: 0.3, parts: [hiss(0.22, "high", 6500, 0.12)] },
  49: { pan: -0.25, parts: [hiss(0.22, "high", 4200, 0.4)] },
};
