import type { ChordMark } from "../../api/gen/render.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { type Band } from "../../canvas/drawing/geometry";
import { lastAt } from "../../sorted";
import { railsOf } from "../../canvas/rails/rail";
import type { Room } from "../kind";
import { ladderBand, leastFor, usedBy, type LadderShape } from "../steps/band";
import { STRIP, STRIP_CLOSED } from "../steps/strip";
import type { ChordsLane } from "./chords";
import { rails } from "./rails";

/** Height of the closed band. */
export const CLOSED = 66;

const shape: LadderShape = {
  closed: CLOSED,
  over: STRIP - 4,
  overClosed: STRIP_CLOSED - 4,
  rows: 8,
  rowsClosed: 8,
};

export const railsIn = (lane: ChordsLane, view: LaneView) => railsOf(rails, lane, view);

/** The least height of an open band. */
export const leastOf = (lane: ChordsLane, view: LaneView) => leastFor(shape, railsIn(lane, view).length);

export const bandOf = (lane: ChordsLane, view: LaneView, room: Room): Band =>
  ladderBand(view, usedBy(view, lane.steps, room), room, shape, railsIn(lane, view));

/** The chord that is held at a tick; undefined where none is. */
export function markAt(view: LaneView, tick: number): ChordMark | undefined {
  const marks = view.chart?.marks ?? [];
  const mark = marks[lastAt(marks, (m) => m.at, tick)];
  return mark && tick < mark.until ? mark : undefined;
}
