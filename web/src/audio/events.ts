import { lastAt } from "../sorted";

/** Calls back for every event from a tick up to, but not at, another; events are in
 * order. */
export function between<T extends { at: number }>(
  events: readonly T[],
  low: number,
  high: number,
  each: (event: T) => void,
): void {
  let k = lastAt(events, (e) => e.at, low);
  while (k >= 0 && events[k]!.at >= low) k--;
  for (k++; k < events.length; k++) {
    const event = events[k]!;
    if (event.at >= high) return;
    each(event);
  }
}
