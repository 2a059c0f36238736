import type { Modulator, Odd } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";
import { laneIn, useApp } from "../../state/store";

/** Edits what a lane has of something, building on what it is when the edit's turn comes. */
function change(lane: Lane, patch: (now: Lane) => Record<string, unknown>): void {
  const { clip, edit } = useApp.getState();
  void edit((now) => {
    const own = laneIn(now, clip, lane.id);
    return own ? [{ op: "lane.set", clip, lane: lane.id, patch: patch(own) }] : [];
  });
}

export const changeModulators = (lane: Lane, next: (list: Modulator[]) => Modulator[]): void =>
  change(lane, (own) => ({ modulators: next(own.modulators) }));

export const changeOdds = (lane: Lane, next: (list: Odd[]) => Partial<Odd>[]): void =>
  change(lane, (own) => ({ odds: next(own.odds) }));
