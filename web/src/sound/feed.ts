import type { Bend, Control, Note, Pressure } from "../api/gen/view.gen";
import type { RunningLane } from "../audio/running";
import { between } from "../audio/events";
import type { Member, Voice } from "../audio/voices";

/** What moves a voice beside its notes. */
export interface Moves {
  controls: readonly Control[];
  bends: readonly Bend[];
  pressures: readonly Pressure[];
}

/** Lets a voice be moved by what stands from a tick up to another. */
export function move(voice: Voice, moves: Moves, low: number, high: number, time: (tick: number) => number): void {
  between(moves.controls, low, high, (c) => voice.control(time(c.at), c.controller, c.value));
  between(moves.bends, low, high, (b) => voice.bend(time(b.at), b.value));
  between(moves.pressures, low, high, (p) => voice.press(time(p.at), p.value));
}

/** The way of a note that glides by itself, in seconds after its onset. */
export function slidesOf(
  slides: readonly number[] | undefined,
  rate: number,
): { after: number; bend: number }[] | undefined {
  if (!slides) return undefined;
  return Array.from({ length: slides.length / 2 }, (_, k) => ({
    after: slides[2 * k]! / rate,
    bend: slides[2 * k + 1]!,
  }));
}

/** The channel that a note has for itself; undefined: it sounds on its lane's. */
export const memberOf = ({ channel, wheel }: Note, rate: number): Member | undefined =>
  channel ? { channel, wheel: slidesOf(wheel, rate) ?? [] } : undefined;

/** Gives lanes what they sound from a tick up to another. rate: ticks a second. */
export function feed(
  lanes: readonly RunningLane[],
  voiceOf: (instrument: NonNullable<RunningLane["instrument"]>) => Voice,
  low: number,
  high: number,
  rate: number,
  time: (tick: number) => number,
): void {
  for (const { instrument, on, sound } of lanes) {
    const to = on ?? instrument;
    if (!to) continue;
    const voice = voiceOf(to);
    move(voice, sound, low, high, time);
    if (on) continue;
    between(sound.notes, low, high, (n) =>
      voice.strike(time(n.at), time(n.at + n.length), n.pitch, n.velocity, slidesOf(n.slides, rate)),
    );
  }
}
