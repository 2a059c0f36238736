import type { Sound } from "../api/gen/piece.gen";

/** What a lane is heard with. */
export interface Timbre {
  sound: Sound;
  /** Whether several notes may sound at once. */
  many: boolean;
  /** How many seconds each value of controller 5 lets a portamento last. */
  portamento: readonly number[];
  /** After how many seconds its echo comes back. */
  echo: number;
}

/** Where the pitch of one note goes: so many semitones from its key, so many seconds after its onset. */
export interface Slide {
  after: number;
  bend: number;
}

/** What happens to a voice. Velocities, pressures and values of controllers are 0..127. */
export type Act =
  | { do: "strike"; midi: number; velocity: number; end: number; slides?: readonly Slide[] }
  | { do: "lift"; midi: number } // lets go of a key that was struck by hand
  | { do: "controller"; controller: number; value: number }
  | { do: "bend"; value: number } // -8192..8191
  | { do: "press"; value: number }
  | { do: "silence" } // lets go of all notes; wheel, pedal, portamento and pressure are at rest then
  | { do: "rest" }; // puts back all that controllers have moved

/** What is told to the band. Times are seconds of whatever clock the band goes by: the page's, or a file's. */
export type Message =
  { lane: string; timbre: Timbre } | { lane: string; at: number; act: Act } | { lane: string; gone: true };

/** What is told to the band that is heard: of the page's clock, which stands so many seconds at the beginning of
 * the sound's; and how loud all of it is on this machine, 0..1. */
export interface Batch {
  zero: number;
  messages: readonly Message[];
  loud?: number;
}

/** How loud it was since it was last told: the highest samples by lanes, and of all lanes before they are held
 * back. Over 1 the limiter holds back. */
export interface Metered {
  lanes: Readonly<Record<string, number>>;
  all: number;
}
