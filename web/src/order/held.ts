import { create } from "zustand";
import { keep, recalled } from "../kept";
import { useApp } from "../state/store";
import { come, go } from "./live";
import { perform, turnClip, useOrder } from "./state";

/** The clips of a piece that run while what stands for them is held, not from one press to the next. Remembered on this
 * machine. */
export const useHeld = create<{ of: string; clips: readonly string[] }>(() => ({ of: "", clips: [] }));

const place = (piece: string) => `agrimony held ${piece}`;

/** The clips that run while held, of the piece that is open. */
export function heldClips(): readonly string[] {
  const { id } = useApp.getState();
  const { of, clips } = useHeld.getState();
  return of === id ? clips : recalled<string[]>(place(id), []);
}

/** Lets a clip run while held, or no longer. */
export function turnHeld(clip: string): void {
  const now = heldClips();
  const clips = now.includes(clip) ? now.filter((id) => id !== clip) : [...now, clip];
  const { id } = useApp.getState();
  useHeld.setState({ of: id, clips });
  keep(place(id), JSON.stringify(clips));
}

/** What is held down, and the clip that it stands for. */
const down = new Map<string, string>();

/** Takes a press of a key, a pad or a controller that stands for a clip: brings it in or takes it out, or brings it in for
 * as long as it is held. */
export function press(by: string, clip: string, atOnce = false): void {
  if (!heldClips().includes(clip)) {
    turnClip(clip, atOnce);
    return;
  }
  down.set(by, clip);
  void perform(clip, (all, tick) => come(all, clip, tick), atOnce);
}

/** Takes the release of what was held: its clip goes at the next boundary, unless something else holds it. */
export function release(by: string): void {
  const clip = down.get(by);
  down.delete(by);
  if (!clip || [...down.values()].includes(clip) || !useOrder.getState().live) return;
  void perform(clip, (all, tick) => go(all, clip, tick));
}

/** How a place on the computer's keyboard is told from a pad or a controller. */
export const keyName = (code: string): string => `key ${code}`;

/** Lets go of the computer's keys: the page is no longer told which of them are held. Pads are held on. */
export function releaseKeys(): void {
  for (const by of down.keys()) if (by.startsWith(keyName(""))) release(by);
}
