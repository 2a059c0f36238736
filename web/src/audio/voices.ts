import type { Sound } from "../api/gen/piece.gen";
import type { Slide } from "../synth/protocol";

/** A channel that a note has for itself, and how its wheel goes, where that goes with the note: in seconds after
 * its onset, -8192..8191. */
export interface Member {
  channel: number;
  wheel: readonly Slide[];
}

/** What a hand moves of what it holds: the wheel (-8192..8191), a controller, or the pressure (0..127). */
export type HandMove = { wheel: number } | { controller: number; value: number } | { pressure: number };

/** What a lane is heard with. Times are seconds of the page's clock, or of a file. */
export interface Voice {
  /** Takes the lane's settings, each 0..100. */
  set(sound: Sound): void;
  /** Strikes a note that ends by itself; slides: where its own pitch goes. */
  strike(time: number, end: number, midi: number, velocity: number, slides?: readonly Slide[], own?: Member): void;
  /** Lets go of a key that was struck by hand, at a time. */
  lift?(time: number, midi: number): void;
  /** Lets go of all from a time on, and does not strike what was to come after it. */
  silence(time: number): void;
  /** Puts back all that controllers, wheel and pressure have moved, from a time on. */
  rest(time: number): void;
  /** Moves the wheel of one channel of a zone, where that is heard channel by channel. */
  wheel?(time: number, channel: number, value: number): void;
  /** Sends a controller's value to one channel, where that is heard channel by channel. */
  say?(time: number, channel: number, controller: number, value: number): void;
  /** Ends what sounds and is not wanted any more: a key that was struck at a time. */
  prune?(wanted: (key: number, on: number) => boolean): void;
  /** Moves the wheel, -8192..8191. */
  bend(time: number, value: number): void;
  control(time: number, controller: number, value: number): void;
  /** Presses the channel, 0..127. */
  press(time: number, value: number): void;
  dispose(): void;
}

/** A voice as the sound tab tells of it. */
interface Told {
  help: string;
  /** The settings that it honours. */
  uses: readonly (keyof Sound)[];
}

/** What every voice honours. */
const common = ["level", "pan", "touch", "delay", "delayRate", "feedback", "reverb"] as const;

/** What voices with notes that are held honour besides. */
const held = [...common, "attack", "decay", "sustain", "release", "drive"] as const;

/** And those whose filter matters. */
const filtered = [...held, "cutoff", "resonance", "envelope", "accent"] as const;

/** And those whose oscillator is chosen. */
const chosen = [...filtered, "wave", "width"] as const;

/** The voices of the document. How each sounds stands in synth/bodies.ts. To add one, add a row in both. */
export const voices: Readonly<Record<string, Told>> = {
  bass: { help: "A deep voice that holds as long as a note lasts.", uses: chosen },
  sub: { help: "A round bass: little but the fundamental.", uses: held },
  pluck: { help: "It dies away as if plucked, brighter the harder it is struck.", uses: chosen },
  lead: { help: "Three oscillators a little apart, for melodies over the others.", uses: chosen },
  bell: { help: "Struck metal, clear over all others, which rings.", uses: filtered },
  keys: { help: "Warm keys: struck, and rounder the softer they are played.", uses: filtered },
  pad: { help: "It swells and holds: for chords that carry the rest.", uses: filtered },
  kit: {
    help: "Drums: kick, snare, clap, rim, hats, tom, cymbal and click, each at its usual note.",
    uses: common,
  },
};
