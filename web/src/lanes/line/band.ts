import type { Lane as LaneView } from "../../api/gen/view.gen";
import type { Band } from "../../canvas/drawing/geometry";
import { railsOf } from "../../canvas/rails/rail";
import type { Room } from "../kind";
import { ladderBand, leastFor, usedBy, type LadderShape } from "../steps/band";
import type { LineLane } from "./line";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 58;

const shape: LadderShape = { closed: CLOSED, over: 0, overClosed: 0, rows: 6, rowsClosed: 6 };

export const railsIn = (lane: LineLane, view: LaneView) => railsOf(rails, lane, view);

/** The least height of an open band. */
export const leastOf = (lane: LineLane, view: LaneView) => leastFor(shape, railsIn(lane, view).length);

export const bandOf = (lane: LineLane, view: LaneView, room: Room): Band =>
  ladderBand(view, usedBy(view, lane.steps, room), room, shape, railsIn(lane, view));
