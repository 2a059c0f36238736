import type { Lane as LaneView } from "../../api/gen/view.gen";
import { railsHeight, type Band } from "../../drawing/geometry";
import type { Room } from "../kind";
import type { PulseLane } from "./pulse";
import { rails } from "./rails";

/** Height of the row, closed and open, and of an open band at least and at most. */
export const CLOSED = 34;
const ROW = 48;
export const LEAST = ROW + railsHeight(rails.length);
export const MOST = 292;

/** One row, and under it the rails when the lane is open. */
export function bandOf(_: PulseLane, view: LaneView, room: Room): Band {
  const rowHeight = room.open ? ROW : CLOSED - 4;
  const below = room.open ? railsHeight(rails.length) : 2;
  return {
    rows: view.ladder,
    rowHeight,
    ladderTop: 2,
    ladderBottom: 2 + rowHeight,
    height: 2 + rowHeight + below,
    open: room.open,
    rails: room.open ? rails.length : 0,
  };
}
