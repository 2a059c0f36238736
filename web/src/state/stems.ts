import type { Lane as LaneView } from "../api/gen/view.gen";
import { useApp } from "./store";
import { useSheet } from "./sheet";
import { lastAt } from "../sorted";

const none: readonly number[] = [];
const known = new WeakMap<LaneView, readonly number[]>();

/** Where the notes of a lane begin, in ticks of the clip, each place once. */
function onsetsOf(view: LaneView): readonly number[] {
  let onsets = known.get(view);
  if (!onsets) known.set(view, (onsets = [...new Set(view.notes.map((n) => n.at))].toSorted((a, b) => a - b)));
  return onsets;
}

const stemsOf = (lanes: readonly LaneView[] | undefined, lane: string): readonly number[] => {
  const view = lane ? lanes?.find((l) => l.id === lane) : undefined;
  return view ? onsetsOf(view) : none;
};

/** The onsets of the lane that handles snap to, which stand as stems through all lanes; empty: they snap to none. */
export function useStems(): readonly number[] {
  const against = useSheet((s) => s.against);
  return useApp((s) => stemsOf(s.view?.lanes, against));
}

/** The stem that is nearest to a tick, within so many ticks; null: none is. */
export function onStem(tick: number, within: number): number | null {
  const stems = stemsOf(useApp.getState().view?.lanes, useSheet.getState().against);
  const before = lastAt(stems, (at) => at, tick);
  const near = [stems[before], stems[before + 1]].filter((at) => at !== undefined);
  const best = near.toSorted((a, b) => Math.abs(a - tick) - Math.abs(b - tick))[0];
  return best !== undefined && Math.abs(best - tick) <= within ? best : null;
}

/** Lets handles snap to the onsets of a lane, or, where they do, no longer. */
export function turnAgainst(lane: string): void {
  const { against, set } = useSheet.getState();
  set({ against: against === lane ? "" : lane });
}
