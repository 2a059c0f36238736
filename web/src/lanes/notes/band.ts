import type { Lane as LaneView } from "../../api/gen/view.gen";
import { knownOf, type Band } from "../../canvas/drawing/geometry";
import type { Room } from "../kind";
import { STRIP, STRIP_CLOSED } from "../steps/strip";
import { ladderBand, leastFor, type LadderShape } from "../steps/band";
import type { NotesLane } from "./notes";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 58;

const plain: LadderShape = { closed: CLOSED, over: 0, overClosed: 0, rows: 6, rowsClosed: 6 };
/** Where its chords are the clip's, their names stand over the ladder. */
const named: LadderShape = { ...plain, over: STRIP - 4, overClosed: STRIP_CLOSED - 4 };
const shapeOf = (view: LaneView) => (view.chart ? named : plain);

/** The least height of an open band. */
export const leastOf = (_: NotesLane, view: LaneView) => leastFor(shapeOf(view), rails.length);

export function bandOf(_: NotesLane, view: LaneView, room: Room): Band {
  const used = room.open || !view.notes.length ? [...new Set(view.free?.rows)] : [...knownOf(view).span];
  return ladderBand(view, used, room, shapeOf(view), rails);
}
