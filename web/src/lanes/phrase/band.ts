import type { Lane as LaneView } from "../../api/gen/view.gen";
import type { Band } from "../../drawing/geometry";
import type { Room } from "../kind";
import { ladderBand, leastOf, type LadderShape } from "../steps/band";
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
  rails: rails.length,
  rows: 7,
  rowsClosed: 8,
};

/** The least height of an open band. */
export const LEAST = leastOf(shape);

/** The rows in sight are those of the walk, and of what steps sound beside it. */
export const bandOf = (_: PhraseLane, view: LaneView, room: Room): Band => {
  const walked = view.walk.flatMap((w) => w.rungs);
  return ladderBand(view, walked.length ? walked : view.pitches.flat(), room, shape);
};
