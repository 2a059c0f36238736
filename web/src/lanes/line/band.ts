import type { Lane as LaneView } from "../../api/gen/view.gen";
import { lastAt, railsHeight, type Band } from "../../drawing/geometry";
import type { Room } from "../kind";
import type { LineLane } from "./line";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 58;
const ROW = 18;
const TALLEST_ROW = 26;
const TOP = 6;
/** The least height of an open band: its rails and a few rows. */
export const LEAST = TOP + railsHeight(rails.length) + 6 * ROW;

/** The rows in sight. Of an open ladder they are as many as its height holds, from
 * the lowest one that was scrolled to, whatever notes come and go; a closed one
 * shows those of its notes. */
export function bandOf(lane: LineLane, view: LaneView, room: Room): Band {
  const all = view.ladder;
  const used = view.pitches.filter((_, i) => lane.steps[i]?.on);
  const home = Math.max(
    all.findIndex((r) => r.tonic && r.octave === 0),
    0,
  );
  const rowOf = (pitch: number) =>
    Math.max(
      lastAt(all, (r) => r.pitch, pitch),
      0,
    );
  const bottom = used.length ? rowOf(Math.min(...used)) : home;
  const top = used.length ? rowOf(Math.max(...used)) : home + 7;
  if (!room.open) {
    const low = Math.max(0, Math.min(bottom - 1, all.length - 6));
    const rows = all.slice(low, Math.max(top + 2, low + 6));
    const rowHeight = Math.max(2, (CLOSED - 12) / rows.length);
    return {
      rows,
      rowHeight,
      ladderTop: TOP,
      ladderBottom: TOP + rows.length * rowHeight,
      height: CLOSED,
      open: false,
      rails: 0,
    };
  }
  const below = railsHeight(rails.length);
  const space = Math.max(room.height - TOP - below, ROW);
  const count = Math.min(Math.max(Math.floor(space / ROW), 1), all.length);
  const middle = Math.round((bottom + top + 1 - count) / 2);
  const wanted = room.lowest === null ? Math.min(middle, bottom) : rowOf(room.lowest);
  const low = Math.max(0, Math.min(wanted, all.length - count));
  const rowHeight = Math.min(space / count, TALLEST_ROW);
  const ladderBottom = TOP + count * rowHeight;
  return {
    rows: all.slice(low, low + count),
    rowHeight,
    ladderTop: TOP,
    ladderBottom,
    height: ladderBottom + below,
    open: true,
    rails: rails.length,
  };
}
