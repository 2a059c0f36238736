import { lastAt } from "../../sorted";
import type { Rung } from "../../api/gen/pitch.gen";
import type { Lane as LaneView, Note } from "../../api/gen/view.gen";
import type { Rail } from "../rails/rail";

/** Where everything of one lane stands in its band, in pixels. */
export interface Band {
  /** The rows in sight, from low to high. */
  rows: Rung[];
  rowHeight: number;
  ladderTop: number;
  ladderBottom: number;
  height: number;
  open: boolean;
  /** The rails that stand under the ladder. */
  rails: readonly Rail[];
}

export const RAIL_HEIGHT = 26;
const RAIL_GAP = 3;
/** The height that so many rails take under a ladder. */
export const railsHeight = (count: number): number => (count ? 8 + count * (RAIL_HEIGHT + RAIL_GAP) : 4);

/** The top of a rail. */
export const railTop = (band: Band, rail: number): number => band.ladderBottom + 8 + rail * (RAIL_HEIGHT + RAIL_GAP);

/** The middle of a pitch's row; pitches between rows lie between, and pitches out
 * of sight beyond the edge. */
export function yOf(band: Band, pitch: number): number {
  const { rows } = band;
  const i = Math.max(
    lastAt(rows, (r) => r.pitch, pitch),
    0,
  );
  const here = rows[i];
  const next = rows[i + 1];
  if (!here) return band.ladderBottom;
  const between = next && pitch > here.pitch ? (pitch - here.pitch) / (next.pitch - here.pitch) : 0;
  return band.ladderBottom - (i + between + 0.5) * band.rowHeight;
}

/** Whether a pitch is above (1) or below (-1) the rows in sight. */
export function beyond(band: Band, pitch: number): -1 | 0 | 1 {
  const [low, high] = [band.rows[0], band.rows.at(-1)];
  if (!low || !high) return 0;
  if (pitch > high.pitch) return 1;
  return pitch < low.pitch ? -1 : 0;
}

/** The row under a height, if it lies on the ladder. */
export function rungAt(band: Band, y: number): Rung | undefined {
  return y > band.ladderBottom ? undefined : band.rows[Math.floor((band.ladderBottom - y) / band.rowHeight)];
}

/** The row under a height, or the nearest one. */
export function nearestRung(band: Band, y: number): Rung {
  const i = Math.floor((band.ladderBottom - y) / band.rowHeight);
  const rung = band.rows[Math.min(Math.max(i, 0), band.rows.length - 1)];
  if (!rung) throw new Error("a ladder without rows");
  return rung;
}

/** Whether notes of a lane leave their keys. */
export const bends = (view: LaneView): boolean => view.bends.length > 0 || view.apart;

/** A note that may have a way of its own. */
type Sliding = { at: number; slides?: readonly number[] };

/** How far a note has been moved at a tick, in semitones: by itself, or by the lane's wheel. */
export function bendAt(view: LaneView, note: Sliding, tick: number): number {
  const { slides } = note;
  if (view.apart) {
    if (!slides?.length) return 0;
    const after = tick - note.at;
    let k = 0;
    while (k + 2 < slides.length && slides[k + 2]! <= after) k += 2;
    const [t0, by0, t1, by1] = slides.slice(k, k + 4) as [number, number, number?, number?];
    return t1 === undefined || by1 === undefined || after <= t0 ? by0 : by0 + ((by1 - by0) * (after - t0)) / (t1 - t0);
  }
  const bend = view.bends[lastAt(view.bends, (b) => b.at, tick)];
  return bend ? (bend.value / 8192) * view.range : 0;
}

/** A glide written as overlapping notes: from a pitch into a note. */
export interface Portamento {
  since: number;
  until: number;
  from: number;
  to: number;
}

/** What drawing and hit-testing ask of a lane again and again, worked out once. */
interface Known {
  /** The longest note. */
  longest: number;
  /** The lowest and the highest pitch of the notes; empty where there are none. */
  span: readonly number[];
  /** Where the first round ends. */
  firstRound: number;
  /** Where rounds begin, and where the last ends if nothing cuts it. */
  seams: readonly number[];
  portamento: Portamento[];
}

const known = new WeakMap<LaneView, Known>();

export function knownOf(view: LaneView): Known {
  let k = known.get(view);
  if (!k) {
    const second = view.rounds.findIndex((r) => r > 0);
    k = {
      longest: view.notes.reduce((most, n) => Math.max(most, n.length), 0),
      span: view.notes.reduce<number[]>(
        ([low, high], { pitch }) => [Math.min(low ?? pitch, pitch), Math.max(high ?? pitch, pitch)],
        [],
      ),
      firstRound: second < 0 ? Number.POSITIVE_INFINITY : view.slotAt[second]!,
      seams: seamsOf(view),
      portamento: portamentoOf(view),
    };
    known.set(view, k);
  }
  return k;
}

function seamsOf(view: LaneView): number[] {
  const { rounds, slotAt } = view;
  const out = slotAt.filter((_, k) => k === 0 || rounds[k] !== rounds[k - 1]);
  const last = rounds.filter((r) => r === rounds.at(-1)).length;
  if (last > 0 && last === view.round) out.push(slotAt.at(-1)! + view.stepTicks);
  return out;
}

function portamentoOf(view: LaneView): Portamento[] {
  const out: Portamento[] = [];
  let from = -1;
  let since = 0;
  for (const { at, controller, value } of view.controls) {
    if (controller === 84) {
      from = value;
      since = at;
    } else if (controller === 65 && value === 0 && from >= 0) {
      const note = view.notes[lastAt(view.notes, (n) => n.at, since)];
      if (note) out.push({ since, until: at, from, to: note.pitch });
      from = -1;
    }
  }
  return out;
}

/** Calls back for every note that sounds between two ticks: the cost follows what
 * is in sight, however long the clip. */
export function notesBetween(
  view: LaneView,
  from: number,
  to: number,
  each: (note: Note, index: number) => void,
): void {
  const { longest } = knownOf(view);
  for (let i = lastAt(view.notes, (n) => n.at, from - longest - 1) + 1; i < view.notes.length; i++) {
    const note = view.notes[i]!;
    if (note.at > to) return;
    if (note.at + note.length >= from) each(note, i);
  }
}

/** The index in view.notes of the note under a place on the ladder; -1 without. */
export function noteAt(view: LaneView, band: Band, tick: number, y: number, slack: number): number {
  let found = -1;
  notesBetween(view, tick - slack, tick + slack, (note, i) => {
    const inside = Math.min(Math.max(tick, note.at), note.at + note.length);
    if (Math.abs(yOf(band, note.pitch + bendAt(view, note, inside)) - y) <= Math.max(band.rowHeight / 2, 4)) found = i;
  });
  return found;
}

/** The slot under a tick; the nearest one beyond the ends. */
export function slotAt(view: LaneView, tick: number): number {
  return Math.max(
    lastAt(view.slotAt, (at) => at, tick),
    0,
  );
}

/** The first and last slot that begin or last between two ticks. */
export function slotsBetween(view: LaneView, from: number, to: number): [number, number] {
  return [slotAt(view, from), lastAt(view.slotAt, (at) => at, to)];
}
