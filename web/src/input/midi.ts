import { moveHeld, press, release, releaseAll } from "./actions";

/** What a keyboard sends when a key goes down or comes up, and as wheel, controllers and pressure are moved, without its
 * channel. */
const DOWN = 0x90;
const UP = 0x80;
const CONTROLLER = 0xb0;
const PRESSURE = 0xd0;
const WHEEL = 0xe0;

/** From this number on controllers are no values: they end all notes. */
const ALL_OFF = 120;

/** Takes a message of a MIDI keyboard: two or three bytes. What is none of those is passed over.
 * time: when it was sent, in ms of the page's clock. */
export function heard(message: Uint8Array | null, time?: number): void {
  const [status = 0, first = 0, second = 0] = message ?? [];
  switch (status & 0xf0) {
    case DOWN:
      if (second > 0) press(first, second, time);
      else release(first, time);
      break;
    case UP:
      release(first, time);
      break;
    case CONTROLLER:
      if (first >= ALL_OFF) releaseAll();
      else moveHeld({ controller: first, value: second });
      break;
    case PRESSURE:
      moveHeld({ pressure: first });
      break;
    case WHEEL:
      moveHeld({ wheel: first + 128 * second - 8192 });
      break;
  }
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
