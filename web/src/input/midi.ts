import { press, release } from "./actions";

/** What a keyboard sends when a key goes down or comes up, without its channel. */
const DOWN = 0x90;
const UP = 0x80;

/** Takes a message of a MIDI keyboard: three bytes. What is no key is passed over. */
export function heard(message: Uint8Array | null): void {
  const [status = 0, pitch = 0, velocity = 0] = message ?? [];
  const what = status & 0xf0;
  if (what === DOWN && velocity > 0) press(pitch, velocity);
  else if (what === UP || what === DOWN) release(pitch);
}

/** Who takes the messages instead of the keyboard that enters notes; null: nobody. */
let taker: ((message: Uint8Array) => boolean) | null = null;

/** Lets somebody else take messages first: those that it has no use for are the keyboard's. */
export function takeFirst(own: typeof taker): void {
  taker = own;
}

/** Whether somebody else took a message. */
export const takenFirst = (message: Uint8Array): boolean => taker?.(message) ?? false;

export const hasMidi = (): boolean => typeof navigator.requestMIDIAccess === "function";
