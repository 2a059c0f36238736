import { laneViewOf, useApp } from "../state/store";
import { useSheet } from "../state/sheet";

/** Loops the bars in which the selection, or the cursor, stands; where something is looped, all of the clip is played
 * again. */
export function loopSelected(): void {
  const { view, selection, cursor } = useApp.getState();
  const { loop, set } = useSheet.getState();
  const own = laneViewOf(useApp.getState());
  if (loop || !view || !own) {
    set({ loop: null });
    return;
  }
  const chosen = new Set(selection.length ? selection : [cursor]);
  const at = own.free
    ? own.notes.filter((n) => chosen.has(n.step)).map((n) => n.at)
    : own.slotAt.filter((_, k) => chosen.has(own.slots[k]!) && own.rounds[k] === 0);
  if (!at.length) return;
  const bar = (tick: number) => Math.floor(tick / view.barTicks) * view.barTicks;
  set({ loop: { from: bar(Math.min(...at)), to: Math.min(bar(Math.max(...at)) + view.barTicks, view.ticks) } });
}
