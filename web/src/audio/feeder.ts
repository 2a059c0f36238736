import type { Bend, Control, Note, Pressure } from "../api/gen/view.gen";
import { between } from "./events";
import type { Member, Voice } from "./voices";

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

/** Gives a voice all that begins from a tick up to another, live, in the running order and in files: what moves it,
 * and each note to whoever strikes it. */
export function feed(
  voice: Voice,
  sound: Moves & { notes: readonly Note[] },
  low: number,
  high: number,
  time: (tick: number) => number,
  strike: (note: Note) => void,
): void {
  move(voice, sound, low, high, time);
  between(sound.notes, low, high, strike);
}
