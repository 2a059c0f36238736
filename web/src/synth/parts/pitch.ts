/** The highest pitch that an oscillator is tuned to, as a share of the sampling rate; the lowest, in Hz. */
const HIGHEST = 0.45;
const LOWEST = 1;

/** The frequency of a pitch in MIDI numbers, in Hz, as far as the sampling rate can hold it; whatever the pitch is. */
export function hertzOf(pitch: number, rate: number): number {
  const hertz = 440 * 2 ** ((pitch - 69) / 12);
  return hertz > LOWEST ? Math.min(hertz, HIGHEST * rate) : LOWEST; // not a number is no more than the lowest
}

/** A value within bounds; what is no number is as usual. */
export const within = (value: number, low: number, high: number, usual: number): number =>
  Number.isNaN(value) || typeof value !== "number" ? usual : Math.min(Math.max(value, low), high);
