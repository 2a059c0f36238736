import type { Lane as LaneView } from "../src/api/gen/view.gen";

/** A view of a lane of so many sixteenths that comes round for so many rounds, with
 * a note of 180 ticks on each of the steps named. */
export function laneView(steps: number, rounds: number, on: number[], part: Partial<LaneView> = {}): LaneView {
  const count = steps * rounds;
  const slots = Array.from({ length: count }, (_, k) => k % steps);
  const slotAt = slots.map((_, k) => k * 240);
  const notes = slots.flatMap((step, k) =>
    on.includes(step)
      ? [{ at: k * 240, length: 180, pitch: 50 + step, velocity: 100, step, round: Math.floor(k / steps) }]
      : [],
  );
  return {
    id: "low",
    channel: 1,
    stepTicks: 240,
    round: steps,
    period: "",
    slots,
    free: null,
    chancy: false,
    slotAt,
    rounds: slots.map((_, k) => Math.floor(k / steps)),
    sounds: slots.map((s) => on.includes(s)),
    active: Array.from({ length: steps }, () => true),
    pitches: Array.from({ length: steps }, (_, i) => [50 + i]),
    names: [],
    spans: [],
    ladder: Array.from({ length: 24 }, (_, i) => ({
      degree: (i % 7) + 1,
      octave: 0,
      alter: 0,
      pitch: 40 + i,
      name: `${40 + i}`,
      tonic: i % 12 === 10,
      inKey: true,
    })),
    audible: true,
    notes,
    wheels: [],
    apart: false,
    bends: [],
    controls: [],
    range: 12,
    chart: null,
    clocked: false,
    walk: [],
    repeats: slots.map((_, k) => k >= steps),
    pressures: [],
    moved: [],
    moves: [],
    odds: [],
    octaves: { low: 36, high: 59 },
    drawn: [],
    curves: [],
    outside: [],
    reach: null,
    straight: [],
    until: steps * rounds * 240,
    share: { timing: 100, velocity: 100 },
    ...part,
  };
}

/** Draws numbers below n, the same in every run. It mixes all its bits (mulberry32): draws that follow one another
 * must not hang together, or what a search ranges over is less than it seems. */
export function drawn(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 2 ** 32) * n);
  };
}
