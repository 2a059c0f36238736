import { PPQ } from "../api/gen/view.gen";
import { Follower } from "./follow";
import { CLOCK, CONTINUE, PER_QUARTER, placeOf, START, STOP } from "./port";
import { keep, senderOf, usePorts } from "./routes";

/** Ticks from one clock to the next. */
const TICKS = PPQ / PER_QUARTER;

const targets = () => usePorts.getState().clocked.flatMap((id) => senderOf(id) ?? []);

function tell(message: readonly number[], at: number): void {
  for (const { port, delay } of targets()) port.send(message, at + delay);
}

/** When the last clock that was sent ahead is due, in ms of the page's clock. It cannot be taken back everywhere. */
let last = 0;

/** How long after it what stops or starts the clock stands, in ms. */
const AFTER = 1;

/** Tells of the clocks from a tick up to another. time: ms of the page's clock. */
export function clocksBetween(low: number, high: number, time: (tick: number) => number): void {
  if (!usePorts.getState().clocked.length) return;
  for (let k = Math.max(Math.ceil(low / TICKS), 0); k * TICKS < high; k++) {
    last = time(k * TICKS);
    tell([CLOCK], last);
  }
}

/** From when on it may start anew, in ms of the page's clock: whoever counts clocks would count those sent ahead. */
export const clockFree = (): number => (usePorts.getState().clocked.length ? last + AFTER : 0);

/** Tells that it starts at a tick. */
export function clockStarts(tick: number, at: number): void {
  if (tick <= 0) tell([START], at);
  else {
    tell(placeOf(Math.round((tick * 4) / PPQ)), at);
    tell([CONTINUE], at);
  }
}

/** Tells that it stops: after what was sent ahead, so that no clock follows. */
export const clockStops = (): void => tell([STOP], Math.max(performance.now(), clockFree()));

const follower = new Follower();

/** What is done as a sender starts, told where it stands by then, and as it stops. */
let acts: { start(tick: () => number): void; stop(why: string): void } | null = null;

export function followWith(own: NonNullable<typeof acts>): void {
  acts = own;
}

/** Chooses whose clock is followed; empty: one's own tempo. */
export function follow(id: string): void {
  follower.forget();
  keep({ follows: id });
}

/** Takes a message of a clock that comes in. */
export function takeClock(id: string, data: Uint8Array, at: number): void {
  if (usePorts.getState().follows !== id) return;
  if (!follower.take(data, at)) return;
  if (follower.playing) acts?.start(() => Math.round(followed(performance.now())?.tick ?? follower.next * PPQ));
  else acts?.stop("");
}

/** The tempo and place that are followed, at a moment of the page's clock; null: none are. */
export function followed(now: number): { tempo: number; tick: number } | null {
  if (!usePorts.getState().follows) return null;
  if (follower.lost(now)) {
    follower.forget();
    acts?.stop("The clock that was followed has been silent for two seconds: it is stopped.");
    return null;
  }
  const { tempo } = follower;
  const place = follower.place(now);
  return tempo === null || place === null ? null : { tempo, tick: place * PPQ };
}
