/** From the least to the most that a time of a sound is, in ms: evenly by ratio over 0..100. */
const SPANS = { attack: [1, 1000], decay: [20, 2000], release: [5, 3000] } as const;

export type Timed = keyof typeof SPANS;

export const isTimed = (field: string): field is Timed => field in SPANS;

/**
 * The time that a value of 0..100 stands for, in ms. A decay and a release have fallen to 1/e of their way by
 * then, and an attack has come to within 1/e of its top.
 */
export function msOf(field: Timed, value: number): number {
  const [low, high] = SPANS[field];
  return low * (high / low) ** (value / 100);
}
