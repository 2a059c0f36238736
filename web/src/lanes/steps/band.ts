import type { Lane as LaneView } from "../../api/gen/view.gen";
import { knownOf, railsHeight, type Band } from "../../canvas/drawing/geometry";
import { lastAt } from "../../sorted";
import type { Rail } from "../../canvas/rails/rail";
import type { Room } from "../kind";

const ROW = 18;
const TALLEST_ROW = 26;
const TOP = 6;

/** How a kind's ladder stands in its band. */
export interface LadderShape {
  /** Height of the closed band. */
  closed: number;
  /** Room over the ladder of an open band, and of a closed one. */
  over: number;
  overClosed: number;
  /** The least rows of an open ladder, and of a closed one. */
  rows: number;
  rowsClosed: number;
}

/** The least height of an open band: its rails, so many, and a few rows. */
export const leastFor = (shape: LadderShape, rails: number): number =>
  TOP + shape.over + railsHeight(rails) + shape.rows * ROW;

/** The rows in sight. Of an open ladder they are as many as its height holds, from
 * the lowest one that was scrolled to, whatever notes come and go; a closed one
 * shows those of its notes. */
export function ladderBand(
  view: LaneView,
  used: readonly number[],
  room: Room,
  shape: LadderShape,
  rails: readonly Rail[],
): Band {
  const all = view.ladder;
  const home = Math.max(
    all.findIndex((r) => r.tonic && r.octave === 0),
    0,
  );
  const rowOf = (pitch: number) =>
    Math.max(
      lastAt(all, (r) => r.pitch, pitch),
      0,
    );
  const bottom = used.length ? rowOf(Math.min(...used)) : home;
  const top = used.length ? rowOf(Math.max(...used)) : home + 7;
  if (!room.open) {
    const low = Math.max(0, Math.min(bottom - 1, all.length - shape.rowsClosed));
    const rows = all.slice(low, Math.max(top + 2, low + shape.rowsClosed));
    const rowHeight = (shape.closed - shape.overClosed - 2 * TOP) / rows.length;
    return {
      rows,
      rowHeight,
      ladderTop: TOP + shape.overClosed,
      ladderBottom: TOP + shape.overClosed + rows.length * rowHeight,
      height: shape.closed,
      open: false,
      rails: [],
    };
  }
  const ladderTop = TOP + shape.over;
  const below = railsHeight(rails.length);
  const space = Math.max(room.height - ladderTop - below, ROW);
  const count = Math.min(Math.max(Math.floor(space / ROW), 1), all.length);
  const middle = Math.round((bottom + top + 1 - count) / 2);
  const wanted = room.lowest === null ? Math.min(middle, bottom) : rowOf(room.lowest);
  const low = Math.max(0, Math.min(wanted, all.length - count));
  const rowHeight = Math.min(space / count, TALLEST_ROW);
  const ladderBottom = ladderTop + count * rowHeight;
  return {
    rows: all.slice(low, low + count),
    rowHeight,
    ladderTop,
    ladderBottom,
    height: ladderBottom + below,
    open: true,
    rails,
  };
}

/** The pitches that a ladder is to show: of the steps that are on; in a closed band those that
 * sound, wherever they were moved. */
export const usedBy = (view: LaneView, steps: readonly { on: boolean }[], room: Room): number[] =>
  room.open || !view.notes.length
    ? view.pitches.flatMap((pitches, i) => (steps[i]?.on ? pitches : []))
    : [...knownOf(view).span];
