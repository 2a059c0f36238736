import type { Lane as LaneView } from "../../api/gen/view.gen";
import { railsHeight, type Band } from "../../canvas/drawing/geometry";
import { railsOf } from "../../canvas/rails/rail";
import type { Room } from "../kind";
import type { ControlLane } from "./control";
import { rails } from "./rails";

/** Heights of the band, closed, of its curve at least, and open at most. */
export const CLOSED = 44;
const CURVE = 96;
export const MOST = 324;

/** The rails; where the lane follows another, its steps do not play. */
export const railsIn = (lane: ControlLane, view: LaneView) => (lane.follows ? [] : railsOf(rails, lane, view, "value"));

/** The least height of an open band. */
export const leastOf = (lane: ControlLane, view: LaneView) => CURVE + 12 + railsHeight(railsIn(lane, view).length);

/** The values that a lane may take. */
export const rangeOf = (lane: ControlLane): [number, number] => (lane.target === "wheel" ? [-100, 100] : [0, 127]);

/** A field for the curve, and under it the rails when the lane is open. */
export function bandOf(lane: ControlLane, view: LaneView, room: Room): Band {
  const shown = room.open ? railsIn(lane, view) : [];
  const below = room.open ? railsHeight(shown.length) : 6;
  const top = 8;
  const height = room.open ? Math.max(room.height - top - below, CURVE) : CLOSED - top - below;
  return {
    rows: [],
    rowHeight: height,
    ladderTop: top,
    ladderBottom: top + height,
    height: top + height + below,
    open: room.open,
    rails: shown,
  };
}

/** The height of a value. */
export function valueY(band: Band, [low, high]: [number, number], value: number): number {
  return band.ladderBottom - ((value - low) / (high - low)) * (band.ladderBottom - band.ladderTop);
}

/** The value at a height. */
export function valueAt(band: Band, [low, high]: [number, number], y: number): number {
  const share = (band.ladderBottom - y) / (band.ladderBottom - band.ladderTop);
  return Math.round(low + Math.min(Math.max(share, 0), 1) * (high - low));
}

/** What the lane sends, in the unit of its values. */
export function sentBy(lane: ControlLane, view: LaneView): { at: number; value: number }[] {
  if (lane.target === "wheel") return view.bends.map((b) => ({ at: b.at, value: (b.value / 8192) * 100 }));
  return lane.target === "pressure" ? view.pressures : view.controls;
}
