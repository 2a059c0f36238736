import type { Sound } from "../api/gen/piece.gen";
import type { Bend, Clip as ClipView, Control, Note, Pressure } from "../api/gen/view.gen";

/** What follows a lane's id in the voice with which it is played by hand. */
export const BY_HAND = " by hand";

/** What a lane of a clip is called in the running order. */
export const inOrder = (clip: string, lane: string): string => `${clip}/${lane}`;

/** A lane by what it sounds with. */
export interface Instrument {
  id: string;
  sound: Sound;
  /** Whether several notes may sound at once. */
  many: boolean;
  /** What says where it sounds: its clip and lane; absent: here. */
  route?: string;
  /** Its MIDI channel, as its file has it. */
  channel?: number;
  /** Whether its notes glide each by itself, on channels of their own. */
  apart?: boolean;
}

/** What the times of voices go by. */
export interface Times {
  tempo: number;
  /** How many seconds each value of controller 5 lets a portamento last. */
  portamento: readonly number[];
  /** How many quarters each rate of an echo is. */
  echoes: Readonly<Record<string, number>>;
}

/** What a lane plays in a round of the clip. */
export interface Part {
  id: string;
  audible: boolean;
  /** What it sounds with; null: it acts on another lane's. */
  instrument: Instrument | null;
  /** The lane that it acts on; empty: none. */
  on: string;
  notes: readonly Note[];
  controls: readonly Control[];
  bends: readonly Bend[];
  pressures: readonly Pressure[];
  /** Positions of the wheels of notes that glide each by itself, on their channels. */
  wheels: readonly Bend[];
}

/** All that is played: the newest is asked for at each turn. */
export interface Performance {
  /** What is played: another one begins at the next bar line where atBar is set, and one of the same name
   * at once, since it is an edit. */
  name: string;
  atBar: boolean;
  tempo: number;
  /** Where in the clip it begins: not at 0 where a stretch is looped. */
  from: number;
  /** How long a round, a bar and a beat are. */
  ticks: number;
  barTicks: number;
  beatTicks: number;
  groove: ClipView["groove"];
  beat: { pattern: string; level: number };
  /** What the times of voices go by. */
  times: Times;
  parts: readonly Part[];
  /** What announces zones of channels, before all else. */
  setup: readonly Control[];
}

/** What is on trial: notes over and over, in a voice of their own. */
export interface Trial {
  instrument: Instrument;
  notes: readonly Note[];
  ticks: number;
}
