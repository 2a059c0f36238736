import type { Step } from "../api/gen/piece.gen";

export const RAIL_HEIGHT = 26;
export const RAIL_GAP = 3;

/** A rail draws one value of the steps. To add a rail, add a row. */
export interface Rail {
  name: string;
  low: number;
  high: number;
  unit: string;
  value: (step: Step) => number;
  patch: (value: number, step: Step) => Partial<Record<keyof Step, unknown>>;
}

export const rails: Rail[] = [
  { name: "Velocity", low: 1, high: 127, unit: "", value: (s) => s.velocity, patch: (v) => ({ velocity: v }) },
  { name: "Gate", low: 1, high: 200, unit: "%", value: (s) => s.gate, patch: (v) => ({ gate: v }) },
  { name: "Chance", low: 0, high: 100, unit: "%", value: (s) => s.chance, patch: (v) => ({ chance: v }) },
  {
    name: "Glide",
    low: 0,
    high: 200,
    unit: "%",
    value: (s) => s.glide?.time ?? 0,
    patch: (v, s) => ({ glide: v === 0 ? null : { ...s.glide, time: v } }),
  },
];
