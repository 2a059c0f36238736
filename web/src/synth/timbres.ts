/** What tells one polyphonic voice from another. Times are in seconds. */
export interface Body {
  /** The partials from the fundamental up, as shares of it, by the lane's wave. */
  partials: (wave: string) => readonly number[];
  /** How far its two oscillators stand apart, in semitones. */
  apart: number;
  attack: number;
  /** How long it dies away at decay 100; 0: it holds. */
  decays: number;
  /** The level that it holds at, 0..1. */
  holds: number;
  release: number;
}

/** Warm keys: struck, rounder the softer they are played. */
export const warmKeys: Body = {
  partials: () => [1, 0.42, 0.16, 0.1, 0.05, 0.03],
  apart: 0.05,
  attack: 0.005,
  decays: 3.2,
  holds: 0.22,
  release: 0.22,
};

/** A pad: it swells and holds. */
export const pad: Body = {
  partials: () => [1, 0.6, 0.34, 0.3, 0.18, 0.14, 0.1, 0.07],
  apart: 0.13,
  attack: 0.16,
  decays: 0,
  holds: 1,
  release: 0.75,
};

/** A plucked synth for several notes at once: brighter the harder it is struck, with a release that lets it
 * ring. */
export const plucks: Body = {
  partials: (wave) => Array.from({ length: 24 }, (_, i) => (wave !== "saw" && i % 2 ? 0 : 1 / (i + 1))),
  apart: 0.12,
  attack: 0.003,
  decays: 1.1,
  holds: 0.02,
  release: 0.3,
};
