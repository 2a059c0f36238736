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

/** Listens to the keyboards that the browser knows, where it has Web MIDI, and to those
 * that are plugged in later. told is given their names now and whenever they change. */
export async function listen(told: (names: string[]) => void): Promise<void> {
  const access = await navigator.requestMIDIAccess();
  const look = () => {
    const inputs = [...access.inputs.values()].filter((input) => input.state === "connected");
    for (const input of inputs)
      input.onmidimessage = ({ data }) => {
        if (!(data && taker?.(data))) heard(data);
      };
    told(inputs.map((input) => input.name ?? "keyboard"));
  };
  access.onstatechange = look;
  look();
}

export const hasMidi = (): boolean => typeof navigator.requestMIDIAccess === "function";
