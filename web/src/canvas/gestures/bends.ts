import type { Point as BendPoint } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView, Note } from "../../api/gen/view.gen";
import { bendFact } from "../../api/facts";
import { freeNotes, setOp } from "../../api/free";
import { laneOf, laneViewOf, stepsOf, useApp } from "../../state/store";
import { useSheet } from "../../state/sheet";
import { onStem } from "../../state/stems";
import { token } from "../../theme";
import { bendAt, nearestRung, yOf } from "../drawing/geometry";
import type { Axis, Pen, Picture } from "../drawing/picture";
import type { Gesture, Ground, Point } from "./gesture";

/**
 * The bend of one selected note is shaped by handles: one for each of its points, one amid each way between two, which
 * curves it, and one at its beginning, which is how long it glides into it. A press on the way itself makes a point. A
 * gesture changes what it touches and nothing else. A free note that is not bent has a handle at its end, from which it
 * is drawn away.
 */
interface Handle {
  what: "point" | "curve" | "glide" | "away" | "way";
  /** Which point it moves, or whose way it curves; of a way, before which a new one comes. */
  point: number;
  at: number;
  pitch: number;
}

/** What can be bent: a free note, or a step of a line. */
interface Bent {
  bend: BendPoint[];
  glide: { time: number } | null;
  length?: number;
}

/** The one note that is selected, with how it sounds; null: none, or its kind of lane does not bend. */
function chosen(lane: Lane, view: LaneView, selection: ReadonlySet<number> | readonly number[]) {
  const [place, more] = [...selection];
  if (place === undefined || more !== undefined) return null;
  if ("voices" in lane && lane.voices !== "one") return null;
  const cell = stepsOf(lane)[place] as unknown as (Bent & { on?: boolean }) | undefined;
  const sound = view.notes.find((n) => n.step === place);
  return cell?.bend && cell.on !== false && sound ? { place, cell, sound, free: freeNotes(lane) !== null } : null;
}

type Chosen = NonNullable<ReturnType<typeof chosen>>;

const tickOf = (sound: Note, at: number): number => sound.at + (sound.length * at) / 100;

function handlesOf(view: LaneView, { cell, sound, free }: Chosen): Handle[] {
  const out: Handle[] = cell.bend.map(({ at, by }, point) => ({
    what: "point",
    point,
    at: tickOf(sound, at),
    pitch: sound.pitch + by,
  }));
  cell.bend.forEach((p, point) => {
    const before = cell.bend[point - 1];
    if (!before || before.by === p.by) return;
    const at = tickOf(sound, (before.at + p.at) / 2);
    out.push({ what: "curve", point, at, pitch: sound.pitch + bendAt(view, sound, at) });
  });
  if (free && !cell.bend.length) out.push({ what: "away", point: 0, at: sound.at + sound.length, pitch: sound.pitch });
  if (free && cell.glide)
    out.push({
      what: "glide",
      point: 0,
      at: sound.at + ((cell.length ?? sound.length) * cell.glide.time) / 100,
      pitch: sound.pitch,
    });
  return out;
}

export function drawHandles(pen: Pen, p: Picture, { x }: Axis): void {
  const c = p.band.open ? chosen(p.lane, p.view, p.selection) : null;
  if (!c || p.pods) return;
  for (const h of handlesOf(p.view, c)) {
    pen.fillStyle = token(h.what === "point" && h.point === lastOf(p.lane.id, c.place) ? "ink" : "paper");
    pen.strokeStyle = token("ink");
    pen.lineWidth = 1.3;
    pen.beginPath();
    const [left, top] = [x(h.at), yOf(p.band, h.pitch)];
    if (h.what === "glide") pen.rect(left - 3.5, top - 3.5, 7, 7);
    else pen.arc(left, top, h.what === "curve" ? 3 : 4.5, 0, 2 * Math.PI);
    pen.fill();
    pen.stroke();
  }
}

/** How near a hand must come to a handle, and to the way between two, in pixels. */
const NEAR = 7;
const ON_WAY = 4;

/** The handle under a place, or the way of a bend; null: neither. */
export function handleAt(g: Ground, p: Point): Handle | null {
  const { selection, lane } = useApp.getState();
  const c = g.band.open && lane === g.lane.id ? chosen(g.lane, g.view, selection) : null;
  if (!c) return null;
  const tick = g.tick(p.x);
  const near = handlesOf(g.view, c).find(
    (h) => Math.abs(h.at - tick) <= g.slack * 1.8 && Math.abs(yOf(g.band, h.pitch) - p.y) <= NEAR,
  );
  if (near) return near;
  const { bend } = c.cell;
  const after = bend.findIndex(({ at }) => tickOf(c.sound, at) > tick);
  if (after <= 0 || bend.length >= bendFact.high) return null; // a way lies between two points
  const pitch = c.sound.pitch + bendAt(g.view, c.sound, tick);
  return Math.abs(yOf(g.band, pitch) - p.y) <= ON_WAY ? { what: "way", point: after, at: tick, pitch } : null;
}

const whole = (value: number, low: number, high: number) => Math.round(Math.min(Math.max(value, low), high));

/** A tick, or the onset of another lane that is near it: of the one that handles snap to, or else of any. */
function nearOnset(g: Ground, tick: number): number {
  const stem = onStem(tick, g.slack * 2);
  if (stem !== null) return stem;
  let [best, away] = [tick, g.slack * 1.5];
  for (const other of useApp.getState().view?.lanes ?? []) {
    if (other.id === g.lane.id) continue;
    for (const { at } of other.notes) {
      if (Math.abs(at - tick) >= away) continue;
      [best, away] = [at, Math.abs(at - tick)];
    }
  }
  return best;
}

/** Where two points of a bend stand apart at least, in percent. */
const APART = 0.001;

/** Moves a point, makes one, curves a way, or changes how long a glide takes. */
function shape(g: Ground, p: Point, held: Handle): Gesture | null {
  const c = chosen(g.lane, g.view, useApp.getState().selection);
  if (!c) return null;
  const { cell, sound, place } = c;
  const fresh = held.what === "way";
  const bend: readonly BendPoint[] = fresh
    ? cell.bend.toSpliced(held.point, 0, { at: 0, by: 0, curve: 0 })
    : held.what === "away"
      ? [
          { at: 50, by: 0, curve: 0 },
          { at: 100, by: 0, curve: 0 },
        ]
      : cell.bend;
  const at = held.what === "away" ? 1 : held.point;
  const own = bend[at];
  let next: readonly BendPoint[] = bend;
  let time = cell.glide?.time ?? 0;
  let moved = fresh;
  const most = bendFact.fields.by.high;
  const from = fresh ? Math.round(held.pitch - sound.pitch) : (own?.by ?? 0);
  const set = (part: Partial<BendPoint>) => (next = bend.map((b, k) => (k === at ? { ...b, ...part } : b)));
  const share = (x: number) => {
    const percent = ((nearOnset(g, g.tick(x)) - sound.at) / sound.length) * 100;
    const [low, high] = [(bend[at - 1]?.at ?? -APART) + APART, (bend[at + 1]?.at ?? 100 + APART) - APART];
    return Math.round(Math.min(Math.max(percent, low), high) * 1000) / 1000;
  };
  const start = fresh ? share(p.x) : (own?.at ?? 100);
  set({ at: start, by: from });
  return {
    heard: true,
    move: (now) => {
      moved ||= Math.abs(now.x - p.x) + Math.abs(now.y - p.y) > 2;
      if (!moved) return {};
      const up = (p.y - now.y) / g.band.rowHeight;
      if (held.what === "glide") {
        time = whole(((g.tick(now.x) - sound.at) / (cell.length ?? sound.length)) * 100, 0, 400);
        return {};
      }
      if (held.what === "curve" && own) {
        const rises = Math.sign(own.by - (bend[at - 1]?.by ?? 0));
        set({ curve: whole(own.curve - rises * up * 25, -100, 100) });
        return {};
      }
      const by = Math.abs(up) < 0.5 ? from : whole(nearestRung(g.band, now.y).pitch - sound.pitch, -most, most);
      set({ by, at: Math.abs(now.x - p.x) < 3 || held.what === "away" ? start : share(now.x) });
      return {};
    },
    end: () => {
      if (!moved) return;
      const patch = held.what === "glide" ? { glide: { ...cell.glide, time } } : { bend: bent(next) };
      void useApp.getState().edit([setOp(g.clip, g.lane, [place], patch)]);
    },
  };
}

/** A bend; one that goes nowhere is none. */
const bent = (points: readonly BendPoint[]): readonly BendPoint[] => (points.every((b) => b.by === 0) ? [] : points);

/** Takes hold of the handle under a place; null: there is none. */
export function takeHandle(g: Ground, p: Point): Gesture | null {
  const held = p.shift || p.alt ? null : handleAt(g, p);
  const place = useApp.getState().selection[0];
  const points = held?.what === "point" || held?.what === "way";
  useSheet
    .getState()
    .set({ point: points && place !== undefined ? { lane: g.lane.id, place, point: held.point } : null });
  return held && shape(g, p, held);
}

/** Which point of a note a hand had last; -1: none. */
function lastOf(lane: string, place: number): number {
  const { point } = useSheet.getState();
  return point?.lane === lane && point.place === place ? point.point : -1;
}

/** Takes away the point of a bend that a hand had last; false: there is none. */
export function removePoint(): boolean {
  const app = useApp.getState();
  const [lane, view] = [laneOf(app), laneViewOf(app)];
  const c = lane && view && chosen(lane, view, app.selection);
  const last = c ? lastOf(lane.id, c.place) : -1;
  if (!c || !c.cell.bend[last]) return false;
  const left = c.cell.bend.toSpliced(last, 1);
  useSheet.getState().set({ point: null });
  void app.edit([setOp(app.clip, lane, [c.place], { bend: left.length < 2 ? [] : bent(left) })]);
  return true;
}
