import { create } from "zustand";
import { CLOCK, inWords, PER_QUARTER, START, STOP, type OutPort } from "./port";

interface Received {
  /** When it was sent to take hold, in ms of the page's clock; and when it came. */
  at: number;
  came: number;
  message: readonly number[];
  words: string;
}

/** How many messages are kept to be looked at. */
const MOST = 400;

interface StandIn {
  received: readonly Received[];
  /** How many came in all, clocks too. */
  count: number;
  clocks: number;
  /** Whether it sends a clock, and at which tempo, in quarters a minute. */
  clocking: boolean;
  tempo: number;
}

export const useStandIn = create<StandIn>(() => ({ received: [], count: 0, clocks: 0, clocking: false, tempo: 120 }));

let waiting: Received[] = [];
let clocks = 0;

/** What came is shown a few times a second, however much it is. */
function show(): void {
  useStandIn.setState((s) => ({
    received: [...s.received, ...waiting].slice(-MOST),
    count: s.count + waiting.length + clocks,
    clocks: s.clocks + clocks,
  }));
  waiting = [];
  clocks = 0;
}

export const STAND_IN = "stand-in";

/** The port that ships with the page: it shows what it is sent. */
export const standIn: OutPort = {
  id: STAND_IN,
  name: "Stand-in",
  standIn: true,
  send(message, at) {
    const came = performance.now();
    globalThis.dispatchEvent?.(new CustomEvent("stand-in", { detail: { at: at || came, came, message } }));
    if (!waiting.length && !clocks) setTimeout(show, 120);
    if (message[0] === CLOCK) clocks++;
    else if (waiting.length < MOST) waiting.push({ at: at || came, came, message, words: inWords(message) });
    else waiting[waiting.length - 1] = { at, came, message, words: inWords(message) };
  },
  clear() {
    // What was sent ahead is shown as it was sent.
  },
};

const listeners = new Set<(data: Uint8Array, at: number) => void>();

/** Takes what the stand-in sends, as from an instrument. */
export function onStandIn(take: (data: Uint8Array, at: number) => void): () => void {
  listeners.add(take);
  return () => listeners.delete(take);
}

// Whoever has the page in hand can play on the stand-in.
globalThis.addEventListener?.("from stand-in", (e) => sendFromStandIn((e as CustomEvent<number[]>).detail));

/** Sends as if from an instrument. */
export function sendFromStandIn(message: readonly number[], at = performance.now()): void {
  for (const take of listeners) take(Uint8Array.from(message), at);
}

/** How often it looks whether a clock is due, in ms. */
const LOOK = 10;
let looking: ReturnType<typeof setInterval> | undefined;

/** Lets it send a clock, as a device does: until it is told to stop, whatever is open. */
export function clockStandIn(clocking: boolean): void {
  clearInterval(looking);
  useStandIn.setState({ clocking });
  sendFromStandIn([clocking ? START : STOP]);
  if (!clocking) return;
  let next = performance.now();
  looking = setInterval(() => {
    for (const now = performance.now(); next <= now; next += 60000 / useStandIn.getState().tempo / PER_QUARTER)
      sendFromStandIn([CLOCK], next);
  }, LOOK);
}
