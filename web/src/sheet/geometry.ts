import type { Step } from "../api/gen/piece.gen";
import type { Rung } from "../api/gen/pitch.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { rails, RAIL_GAP, RAIL_HEIGHT } from "./rails";

/** Where everything of one lane stands in its band, in pixels. */
export interface Band {
  rows: Rung[];
  rowHeight: number;
  top: number;
  ladderBottom: number;
  height: number;
  open: boolean;
}

const LEAST_ROW = 14;
const MOST_ROW = 21;
export const CLOSED_HEIGHT = 58;
const MIN_OPEN_ROWS = 10;
const MIN_CLOSED_ROWS = 6;

/** The rows to show: those of the notes with one to spare, at least enough to
 * find one's way, and as many more as were asked for. An open lane takes the
 * room that is left on the sheet, in pixels, as far as that suits the eye. */
export function bandOf(view: LaneView, steps: Step[], open: boolean, reach: { low: number; high: number }, room: number): Band {
  const all = view.ladder;
  const used = view.pitches.filter((_, i) => steps[i]?.on);
  const home = Math.max(0, all.findIndex((r) => r.tonic && r.octave === 0));
  const rowOf = (pitch: number) => Math.max(0, all.findLastIndex((r) => r.pitch <= pitch));
  let low = used.length ? rowOf(Math.min(...used)) - 1 : home;
  let high = used.length ? rowOf(Math.max(...used)) + 1 : home + 7;
  const least = open ? MIN_OPEN_ROWS : MIN_CLOSED_ROWS;
  while (high - low + 1 < least) {
    if (high < all.length - 1) high++;
    else if (low > 0) low--;
    else break;
  }
  if (open) {
    low -= reach.low;
    high += reach.high;
  }
  low = Math.max(0, low);
  high = Math.min(all.length - 1, high);
  const rows = all.slice(low, high + 1);
  const below = 8 + rails.length * (RAIL_HEIGHT + RAIL_GAP);
  const rowHeight = open ? Math.min(Math.max(Math.floor((room - 6 - below) / rows.length), LEAST_ROW), MOST_ROW) : Math.max(2, (CLOSED_HEIGHT - 12) / rows.length);
  const top = 6;
  const ladderBottom = top + rows.length * rowHeight;
  const height = open ? ladderBottom + below : CLOSED_HEIGHT;
  return { rows, rowHeight, top, ladderBottom, height, open };
}

/** The middle of a pitch's row; pitches between rows lie between. */
export function yOf(band: Band, pitch: number): number {
  const { rows } = band;
  let i = rows.findLastIndex((r) => r.pitch <= pitch);
  if (i < 0) i = 0;
  const here = rows[i];
  const next = rows[i + 1];
  const between = here && next && pitch > here.pitch ? (pitch - here.pitch) / (next.pitch - here.pitch) : 0;
  return band.ladderBottom - (i + between + 0.5) * band.rowHeight;
}

/** The row under a height, if it lies on the ladder. */
export function rungAt(band: Band, y: number): Rung | undefined {
  return band.rows[Math.floor((band.ladderBottom - y) / band.rowHeight)];
}

/** The row under a height, or the nearest one. */
export function nearestRung(band: Band, y: number): Rung {
  const i = Math.floor((band.ladderBottom - y) / band.rowHeight);
  return band.rows[Math.min(Math.max(i, 0), band.rows.length - 1)];
}

/** How far the wheel has moved a note at a tick, in semitones. */
export function bendAt(view: LaneView, tick: number): number {
  let low = 0;
  let high = view.bends.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (view.bends[middle][0] <= tick) low = middle + 1;
    else high = middle;
  }
  return low ? (view.bends[low - 1][1] / 8192) * view.range : 0;
}

/** The index in view.notes of the note under a place on the ladder. */
export function noteAt(view: LaneView, band: Band, tick: number, y: number, slack: number): number {
  for (let i = view.notes.length - 1; i >= 0; i--) {
    const [at, length, pitch] = view.notes[i];
    if (at - slack > tick) continue;
    if (at + length + slack < tick) {
      if (tick - at > 64 * view.stepTicks) break;
      continue;
    }
    const inside = Math.min(Math.max(tick, at), at + length);
    if (Math.abs(yOf(band, pitch + bendAt(view, inside)) - y) <= Math.max(band.rowHeight / 2, 4)) return i;
  }
  return -1;
}

/** The slot under a tick. */
export function slotAt(view: LaneView, tick: number): number {
  return Math.min(Math.max(Math.floor(tick / view.stepTicks), 0), view.slots.length - 1);
}
