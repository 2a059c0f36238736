import type { Lane as LaneView } from "../../api/gen/view.gen";
import { knownOf, type Band } from "../../canvas/drawing/geometry";
import type { Room } from "../kind";
import { ladderBand, leastFor, type LadderShape } from "../steps/band";
import type { NotesLane } from "./notes";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 58;

const shape: LadderShape = { closed: CLOSED, over: 0, overClosed: 0, rows: 6, rowsClosed: 6 };

/** The least height of an open band. */
export const leastOf = () => leastFor(shape, rails.length);

export function bandOf(_: NotesLane, view: LaneView, room: Room): Band {
  const used = room.open || !view.notes.length ? [...new Set(view.free?.rows)] : [...knownOf(view).span];
  return ladderBand(view, used, room, shape, rails);
}
