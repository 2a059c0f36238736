import type { Lane as LaneView } from "../../api/gen/view.gen";
import { railsHeight, type Band } from "../../canvas/drawing/geometry";
import { railsOf } from "../../canvas/rails/rail";
import type { Room } from "../kind";
import type { PulseLane } from "./pulse";
import { rails } from "./rails";

/** Height of the row, closed and open, and of an open band at most. */
export const CLOSED = 34;
const ROW = 48;
export const MOST = 292;

export const railsIn = (lane: PulseLane, view: LaneView) => railsOf(rails, lane, view);
export const leastOf = (lane: PulseLane, view: LaneView) => ROW + railsHeight(railsIn(lane, view).length);

/** One row, and under it the rails when the lane is open. */
export function bandOf(lane: PulseLane, view: LaneView, room: Room): Band {
  const rowHeight = room.open ? ROW : CLOSED - 4;
  const shown = room.open ? railsIn(lane, view) : [];
  const below = room.open ? railsHeight(shown.length) : 2;
  return {
    rows: view.ladder,
    rowHeight,
    ladderTop: 2,
    ladderBottom: 2 + rowHeight,
    height: 2 + rowHeight + below,
    open: room.open,
    rails: shown,
  };
}
