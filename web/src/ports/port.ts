/** A way out to an instrument: a MIDI port of this machine, or the stand-in. */
export interface OutPort {
  id: string;
  name: string;
  /** Whether it ships with the page instead of being an instrument. */
  standIn: boolean;
  /** Sends a message at a time, in ms of the page's clock; 0: at once. */
  send(message: readonly number[], at: number): void;
  /** Takes back what was sent ahead and is not yet due, where it can. */
  clear(): void;
}

export const OFF = 0x80;
export const ON = 0x90;
export const CONTROL = 0xb0;
const PROGRAM = 0xc0;
export const PRESSURE = 0xd0;
const WHEEL = 0xe0;
export const CLOCK = 0xf8;
export const START = 0xfa;
export const CONTINUE = 0xfb;
export const STOP = 0xfc;
export const PLACE = 0xf2;

/** Clocks in a quarter note. */
export const PER_QUARTER = 24;

/** The wheel's message: -8192..8191. */
export const wheel = (channel: number, value: number): number[] => {
  const v = value + 8192;
  return [WHEEL | (channel - 1), v & 127, v >> 7];
};

/** A place in the song, in sixteenths from its beginning. */
export const placeOf = (sixteenths: number): number[] => [PLACE, sixteenths & 127, (sixteenths >> 7) & 127];

const kinds: Readonly<Record<number, (a: number, b: number) => string>> = {
  [OFF]: (a) => `note ${a} ends`,
  [ON]: (a, b) => (b ? `note ${a} is struck, velocity ${b}` : `note ${a} ends`),
  [CONTROL]: (a, b) => `controller ${a} is ${b}`,
  [PROGRAM]: (a) => `program ${a}`,
  [PRESSURE]: (a) => `pressure ${a}`,
  [WHEEL]: (a, b) => `the wheel stands at ${((b << 7) | a) - 8192}`,
};

/** A pad that sends a controller is pressed from this value on. */
const PRESSED = 64;

/** What stands for something that was taught, as a message has it pressed; empty: nothing is pressed. */
export function pressOf([status = 0, first = 0, second = 0]: ArrayLike<number> & Iterable<number>): string {
  const what = status & 0xf0;
  if (what === ON && second > 0) return `note ${first}`;
  if (what === CONTROL && second >= PRESSED) return `controller ${first}`;
  return what === PROGRAM ? `program ${first}` : "";
}

/** What stands for something that was taught, as a message has it let go; empty: nothing is. */
export function releaseOf([status = 0, first = 0, second = 0]: ArrayLike<number> & Iterable<number>): string {
  const what = status & 0xf0;
  if (what === OFF || (what === ON && second === 0)) return `note ${first}`;
  return what === CONTROL && second < PRESSED ? `controller ${first}` : "";
}

/** A message in words. */
export function inWords([status = 0, a = 0, b = 0]: readonly number[]): string {
  if (status === CLOCK) return "clock";
  if (status === START) return "start";
  if (status === CONTINUE) return "continue";
  if (status === STOP) return "stop";
  if (status === PLACE) return `place: ${((b << 7) | a) + 1}. sixteenth`;
  return `channel ${(status & 15) + 1}: ${kinds[status & 0xf0]?.(a, b) ?? "a message"}`;
}
