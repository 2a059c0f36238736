import type { Lane as LaneView } from "../../api/gen/view.gen";
import type { Band } from "../../canvas/drawing/geometry";
import { railsOf } from "../../canvas/rails/rail";
import type { Room } from "../kind";
import { ladderBand, leastFor, type LadderShape } from "../steps/band";
import type { PhraseLane } from "./phrase";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 62;
/** Height of the strip of plays over the ladder of an open band. */
export const STRIP = 30;

const shape: LadderShape = {
  closed: CLOSED,
  over: STRIP - 4,
  overClosed: 0,
  rows: 7,
  rowsClosed: 8,
};

export const railsIn = (lane: PhraseLane, view: LaneView) => railsOf(rails, lane, view);

/** The least height of an open band. */
export const leastOf = (lane: PhraseLane, view: LaneView) => leastFor(shape, railsIn(lane, view).length);

/** The rows in sight are those of the walk, and of what steps sound beside it. */
export const bandOf = (lane: PhraseLane, view: LaneView, room: Room): Band => {
  const walked = view.walk.flatMap((w) => w.rungs);
  return ladderBand(view, walked.length ? walked : view.pitches.flat(), room, shape, railsIn(lane, view));
};
