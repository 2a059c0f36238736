import { create } from "zustand";
import type { Sound } from "../api/gen/piece.gen";
import { retune } from "./player";
import { useApp } from "./store";

/** A value of a sound that is a word. */
export type Chosen = "voice" | "wave" | "delayRate";

/** A value of a sound that a hand or a controller moves: a number. */
export type Slid = Exclude<keyof Sound, Chosen>;

/** What is moved of one lane. */
interface Moved {
  clip: string;
  lane: string;
  values: Readonly<Partial<Record<Slid, number>>>;
  /** Whether it was let go: its edit is under way. */
  kept: boolean;
}

/**
 * Values of sounds while hands or controllers move them: they are heard and shown, and are an edit once they are let go.
 * What is kept is never changed before.
 */
export const useTurning = create<{ all: readonly Moved[] }>(() => ({ all: [] }));

/** What is moved of a lane of the open clip. */
export const movedOf = (all: readonly Moved[], lane: string): Moved | undefined =>
  all.find((m) => m.lane === lane && m.clip === useApp.getState().clip);

/** Lets a value be heard and shown. */
export function turn(lane: string, field: Slid, value: number): void {
  useTurning.setState(({ all }) => {
    const was = movedOf(all, lane);
    const { clip } = useApp.getState();
    return {
      all: [...all.filter((m) => m !== was), { clip, lane, values: { ...was?.values, [field]: value }, kept: false }],
    };
  });
  retune(lane);
}

/** Forgets some of what is moved: what is kept is heard again. */
export function leaveTurned(gone: readonly Moved[]): void {
  useTurning.setState(({ all }) => ({ all: all.filter((m) => !gone.includes(m)) }));
  for (const { lane } of gone) retune(lane);
}

/** Makes all that was moved one edit. Until that is there it is heard and shown as it was let go. */
export function keepTurned(): void {
  const { all } = useTurning.getState();
  const sent = all.flatMap((m) => (m.kept ? [] : [{ ...m, kept: true }]));
  if (!sent.length) return;
  useTurning.setState({ all: [...all.filter((m) => m.kept), ...sent] });
  void useApp
    .getState()
    .edit(sent.map(({ clip, lane, values }) => ({ op: "lane.set", clip, lane, patch: { sound: values } })))
    .then(() => leaveTurned(sent)); // what was moved since stands in their place, and goes on
}

/** A sound with what is moved of it. */
export const turned = (lane: string, sound: Sound): Sound => ({
  ...sound,
  ...movedOf(useTurning.getState().all, lane)?.values,
});
