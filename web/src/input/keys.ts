import { closeKeyboard, enterGathered, press, release, rest, tie } from "./actions";
import { useEnter } from "./state";

/** The computer's keys that stand for the keyboard's, from its lowest up. */
export const letters = ["a", "s", "d", "f", "g", "h", "j", "k", "l", ";", "'"];

/** What each key that is down has struck, by its place on the computer's keyboard. */
const struck = new Map<string, number>();

/** Takes a key of the computer's while the keyboard is open; false: it means nothing here. */
export function playKey(e: KeyboardEvent): boolean {
  const { open, row } = useEnter.getState();
  if (!open || e.ctrlKey || e.metaKey || e.altKey) return false;
  const pitch = row[letters.indexOf(e.key.toLowerCase())];
  if (pitch !== undefined) {
    if (!e.repeat) {
      struck.set(e.code || e.key, pitch);
      press(pitch, 0, e.timeStamp);
    }
    return true;
  }
  switch (e.key) {
    case "0":
      rest();
      return true;
    case "=":
      tie();
      return true;
    case "Enter":
      if (!useEnter.getState().gathered.length) return false;
      enterGathered();
      return true;
    case "Escape":
      closeKeyboard();
      return true;
  }
  return false;
}

/** Lets go of what a key of the computer's has struck. */
export function liftKey(e: KeyboardEvent): void {
  const name = e.code || e.key;
  const pitch = struck.get(name);
  struck.delete(name);
  if (pitch !== undefined) release(pitch, e.timeStamp);
}

/** Lets go of everything, as when the page loses the focus while keys are down. */
export function liftAll(): void {
  for (const pitch of struck.values()) release(pitch);
  struck.clear();
}
