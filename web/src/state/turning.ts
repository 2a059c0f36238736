import { create } from "zustand";
import type { Sound } from "../api/gen/piece.gen";
import { setLane } from "./actions";
import { retune } from "./player";

/** A value of a sound that a hand or a controller moves: a number. */
export type Slid = Exclude<keyof Sound, "voice" | "wave" | "delayRate">;

/** Values by lane and field. */
type Turning = Readonly<Record<string, Readonly<Partial<Record<Slid, number>>>>>;

/**
 * Values of sounds while a hand moves them, by lane and field: they are heard and shown, and are an edit once they are
 * let go. What is kept is never changed before.
 */
export const useTurning = create<{ values: Turning }>(() => ({
  values: {},
}));

/** Lets a value be heard and shown. */
export function turn(lane: string, field: Slid, value: number): void {
  useTurning.setState(({ values }) => ({ values: { ...values, [lane]: { ...values[lane], [field]: value } } }));
  retune(lane);
}

/** Forgets what is moved of a lane: what is kept is heard again. */
export function leaveTurned(lane: string): void {
  if (!useTurning.getState().values[lane]) return;
  useTurning.setState(without(lane));
  retune(lane);
}

/** What was let go by lanes, while its edit is under way. */
const kept = new Map<string, object>();

/** Makes what was moved of a lane one edit. Until that is there it is heard and shown as it was let go. */
export function keepTurned(lane: string): void {
  const moved = useTurning.getState().values[lane];
  if (!moved || kept.get(lane) === moved) return;
  kept.set(lane, moved);
  void setLane(lane, { sound: moved }).then(() => {
    if (kept.get(lane) === moved) kept.delete(lane);
    // What was moved since goes on.
    if (useTurning.getState().values[lane] === moved) leaveTurned(lane);
  });
}

const without =
  (lane: string) =>
  ({ values }: { values: Turning }): { values: Turning } => ({
    values: Object.fromEntries(Object.entries(values).filter(([own]) => own !== lane)),
  });

/** A sound with what is moved of it. */
export const turned = (lane: string, sound: Sound): Sound => {
  const moved = useTurning.getState().values[lane];
  return moved ? { ...sound, ...moved } : sound;
};
