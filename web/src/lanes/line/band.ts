import type { Lane as LaneView } from "../../api/gen/view.gen";
import type { Band } from "../../drawing/geometry";
import type { Room } from "../kind";
import { ladderBand, leastOf, usedBy, type LadderShape } from "../steps/band";
import type { LineLane } from "./line";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 58;

const shape: LadderShape = { closed: CLOSED, over: 0, overClosed: 0, rails: rails.length, rows: 6, rowsClosed: 6 };

/** The least height of an open band. */
export const LEAST = leastOf(shape);

export const bandOf = (lane: LineLane, view: LaneView, room: Room): Band =>
  ladderBand(view, usedBy(view, lane.steps), room, shape);
