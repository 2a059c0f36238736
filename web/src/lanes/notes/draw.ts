import { type Band, bends, beyond, notesBetween, RAIL_HEIGHT, railTop, yOf } from "../../canvas/drawing/geometry";
import { lastAt } from "../../sorted";
import {
  drawBeyond,
  drawGrid,
  drawNames,
  drawRows,
  drawSeam,
  drawTints,
  frame,
  GUTTER,
} from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture, Preview } from "../../canvas/drawing/picture";
import { drawCurves, drawRailNames } from "../../canvas/rails/draw";
import { drawStroke } from "../../canvas/drawing/ground";
import { token } from "../../theme";
import { freeNotes } from "../../api/free";
import { drawPod } from "../steps/pods";
import { drawStrip } from "../steps/strip";
import { drawHandles } from "../../canvas/gestures/bends";
import type { NotesLane } from "./notes";
import { grid } from "./state";
import { BAR } from "../../api/default";

type NotesPicture = Picture<NotesLane>;

/** Draws free notes: a ladder with no lines but the grid's, pods, rails. What a gesture changes is
 * drawn over a picture of the rest, so that it costs the same however many notes there are. */
export function draw(pen: Pen, p: NotesPicture): void {
  frame(
    pen,
    p,
    (axis) => {
      still(pen, p, axis);
      drawHovered(pen, p, axis);
      drawPreviews(pen, p, axis);
      drawHandles(pen, p, axis);
      drawStroke(pen, p.stroke);
    },
    () => {
      drawNames(pen, p);
      if (p.band.open) drawRailNames(pen, p.band);
    },
  );
}

/** A picture that is drawn again only when what it depends on is another. */
interface Kept {
  of: readonly unknown[];
  canvas: HTMLCanvasElement;
}

const stills = new Map<string, Kept>();
const moving = new Map<string, Kept>();

/** The picture kept for a lane, drawn anew where it has to be. */
function kept(
  among: Map<string, Kept>,
  lane: string,
  width: number,
  height: number,
  depends: readonly unknown[],
  paint: (own: Pen) => void,
): HTMLCanvasElement | null {
  const ratio = window.devicePixelRatio || 1;
  const of = [...depends, width, height, ratio];
  const was = among.get(lane);
  if (was && was.of.length === of.length && was.of.every((v, i) => v === of[i])) return was.canvas;
  const canvas = was?.canvas ?? document.createElement("canvas");
  const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
  if (canvas.width !== w) canvas.width = w;
  if (canvas.height !== h) canvas.height = h;
  const own = canvas.getContext("2d");
  if (!own) return null;
  own.setTransform(ratio, 0, 0, ratio, 0, 0);
  own.clearRect(0, 0, width, height);
  paint(own);
  among.set(lane, { of, canvas });
  return canvas;
}

/** All that no gesture changes. */
function still(pen: Pen, p: NotesPicture, axis: Axis): void {
  const [width, height] = [p.width + GUTTER, p.band.height];
  const of: unknown[] = [p.lane, p.view, p.band, p.hue, p.harmony, p.zoom, p.scroll, p.ticks, p.selection];
  of.push(p.pods?.hidden, p.draft, p.cursor, grid(), token("paper"));
  const picture = kept(stills, p.lane.id, width, height, of, (own) => drawStill(own, p, axis));
  if (picture) pen.drawImage(picture, 0, 0, width, height);
}

function drawStill(pen: Pen, p: NotesPicture, axis: Axis): void {
  drawRows(pen, p, axis);
  drawTints(pen, p, axis);
  drawGrid(pen, p, axis);
  drawSnap(pen, p, axis);
  drawSeams(pen, p, axis);
  drawSilent(pen, p, axis);
  drawNotes(pen, p, axis);
  drawGlides(pen, p, axis);
  if (p.band.open) {
    drawBeyond(pen, p, axis);
    drawRails(pen, p, axis);
  }
  if (p.view.chart) drawStrip(pen, p, axis);
}

/** The lines of the grid, where they stand far enough apart. */
function drawSnap(pen: Pen, p: NotesPicture, { x, from, to }: Axis): void {
  const step = grid();
  if (!step || step * p.zoom < 6 || !p.band.open) return;
  pen.fillStyle = token("rule");
  pen.globalAlpha = 0.55;
  for (let t = Math.floor(from / step) * step; t <= to; t += step) pen.fillRect(x(t), 0, 0.5, p.band.ladderBottom);
  pen.globalAlpha = 1;
}

/** Where its loop begins again. */
function drawSeams(pen: Pen, p: NotesPicture, { x, from, to }: Axis): void {
  const seams = p.view.free?.seams ?? [];
  for (
    let i = Math.max(
      lastAt(seams, (at) => at, from),
      1,
    );
    i < seams.length && seams[i]! <= to;
    i++
  )
    drawSeam(pen, x(seams[i]!), p.band.height);
}

const faint = (p: NotesPicture, round: number) => (round > 0 ? 0.48 : 1) * (p.view.audible ? 1 : 0.4);

/** The notes that sound. Those of which several fall on one pixel are drawn once. */
function drawNotes(pen: Pen, p: NotesPicture, axis: Axis): void {
  const { band, view } = p;
  const notes = freeNotes(p.lane) ?? [];
  const bent = bends(view);
  const stem = band.open ? band.rowHeight - 1 : Math.max(band.rowHeight, 7);
  const drawn = new Map<number, number>();
  notesBetween(view, axis.from, axis.to, (note) => {
    if (beyond(band, note.pitch) || p.pods?.hidden.has(note.step)) return;
    const selected = band.open && p.selection.has(note.step);
    const dashed = (notes[note.step]?.chance ?? 100) < 100;
    const weight = weightOf(band, note.velocity);
    const end = note.at + note.length;
    pen.globalAlpha = faint(p, note.round);
    if (bent || selected || dashed) {
      drawPod(pen, p, axis, {
        at: note.at,
        end,
        pitch: note.pitch,
        ...(note.slides ? { slides: note.slides } : {}),
        weight,
        selected,
        dashed,
        hover: false,
      });
      return;
    }
    const left = axis.x(note.at);
    const right = Math.max(axis.x(end) - 1, left + 1);
    if (right <= (drawn.get(note.pitch) ?? -1)) return;
    drawn.set(note.pitch, Math.floor(right));
    const y = yOf(band, note.pitch);
    pen.fillStyle = p.hue;
    pen.fillRect(left, y - weight / 2, right - left, weight);
    pen.fillRect(left - 0.5, y - stem / 2, band.open ? 3 : 2, stem);
  });
  pen.globalAlpha = 1;
}

const weightOf = (band: Band, velocity: number) =>
  band.open ? 2 + (velocity / 127) * 6.5 : Math.max(2, Math.min(band.rowHeight, 4.5));

/** The note under the pointer, over the picture of all. */
function drawHovered(pen: Pen, p: NotesPicture, axis: Axis): void {
  const note = p.view.notes[p.hover];
  if (!note || beyond(p.band, note.pitch) || p.pods?.hidden.has(note.step)) return;
  const selected = p.band.open && p.selection.has(note.step);
  const dashed = ((freeNotes(p.lane) ?? [])[note.step]?.chance ?? 100) < 100;
  const { at, length, pitch, velocity, round } = note;
  pen.globalAlpha = faint(p, round);
  drawPod(pen, p, axis, {
    at,
    end: at + length,
    pitch,
    weight: weightOf(p.band, velocity),
    selected,
    dashed,
    hover: true,
  });
  pen.globalAlpha = 1;
}

/** Notes that are there and do not sound in the first round: for chance, or rounds, or because the
 * lane is muted. */
function drawSilent(pen: Pen, p: NotesPicture, { x, from, to }: Axis): void {
  const { band, view } = p;
  const free = view.free;
  const notes = freeNotes(p.lane);
  if (!free || !notes || !band.open) return;
  const sounding = new Set<number>();
  for (const note of view.notes) {
    if (note.round > 0) break;
    sounding.add(note.step);
  }
  const joined = new Set(free.joined);
  const first = lastAt(notes, (n) => n.at, free.start + from - 4 * BAR) + 1;
  pen.strokeStyle = p.hue;
  pen.lineWidth = 1;
  for (let i = Math.max(first, 0); i < notes.length; i++) {
    const note = notes[i]!;
    const at = note.at - free.start;
    if (at > to || at >= free.length) break;
    const pitch = free.rows[i];
    if (at < 0 || sounding.has(i) || p.pods?.hidden.has(i) || pitch === undefined || beyond(band, pitch)) continue;
    const y = yOf(band, pitch);
    const wide = Math.max(x(at + note.length) - x(at) - 1, 2);
    if (joined.has(i)) {
      // The note before runs on into it: only where it comes in is marked.
      pen.fillStyle = p.selection.has(i) ? token("now") : p.hue;
      pen.fillRect(x(at) - 1, y - 7, p.selection.has(i) ? 4 : 1.5, 14);
      continue;
    }
    if (p.selection.has(i)) {
      pen.fillStyle = token("now");
      pen.fillRect(x(at), y - 6, wide, 12);
    }
    pen.globalAlpha = view.audible ? 0.7 : 0.5;
    pen.setLineDash([1.5, 3]);
    pen.strokeRect(x(at) + 0.5, y - 3.5, wide, 7);
    pen.setLineDash([]);
    pen.globalAlpha = 1;
  }
}

/** A glide into a note that a new onset begins: a curve from the pitch that it comes from. */
function drawGlides(pen: Pen, p: NotesPicture, { x, from, to }: Axis): void {
  if (bends(p.view) || !p.band.open) return; // the pods follow the wheel
  const notes = freeNotes(p.lane) ?? [];
  pen.strokeStyle = p.hue;
  pen.lineWidth = 2;
  let last: number | null = null;
  notesBetween(p.view, from, to, (note) => {
    const glide = notes[note.step]?.glide;
    const begins = glide?.from != null ? note.pitch + glide.from : last;
    if (glide && begins !== null && begins !== note.pitch) {
      const [x0, x1] = [x(note.at), x(note.at + (note.length * glide.time) / 100)];
      pen.beginPath();
      pen.moveTo(x0, yOf(p.band, begins));
      pen.bezierCurveTo(
        (x0 + x1) / 2,
        yOf(p.band, begins),
        (x0 + x1) / 2,
        yOf(p.band, note.pitch),
        x1,
        yOf(p.band, note.pitch),
      );
      pen.stroke();
    }
    last = note.pitch;
  });
}

/** The rails under an open lane: a bar at the onset of each note. */
function drawRails(pen: Pen, p: NotesPicture, axis: Axis): void {
  const { band, view } = p;
  const notes = freeNotes(p.lane) ?? [];
  const free = view.free;
  if (!free) return;
  band.rails.forEach((rail, r) => {
    const top = railTop(band, r);
    pen.fillStyle = token("paper-2");
    pen.fillRect(axis.x(0), top, axis.x(p.ticks) - axis.x(0), RAIL_HEIGHT);
    const share = (value: number) =>
      (Math.min(Math.max(value, rail.low), rail.high) - rail.low) / (rail.high - rail.low);
    const height = (value: number) => share(value) * (RAIL_HEIGHT - 2);
    if (rail.field) drawCurves(pen, p, rail.field, (value) => top + RAIL_HEIGHT - 1 - height(value), axis);
    let free_x = -1;
    let i = Math.max(
      lastAt(notes, (n) => n.at, free.start + axis.from),
      0,
    );
    for (; i < notes.length; i++) {
      const at = notes[i]!.at - free.start;
      if (at < 0) continue;
      if (at > axis.to || at >= free.length) break;
      const left = axis.x(at);
      const chosen = p.selection.has(i);
      if (left < free_x && !chosen) continue;
      free_x = left + 1;
      const value = (p.draft?.rail === r ? p.draft.values.get(i) : undefined) ?? rail.value(notes[i]!, i);
      pen.globalAlpha = 0.9;
      pen.fillStyle = chosen ? token("ink") : p.hue;
      pen.fillRect(left, top + RAIL_HEIGHT - 1 - height(value), 5, Math.max(height(value), 1));
      if (value > rail.high) pen.fillRect(left + 7, top + 2, 3, 3);
    }
    pen.globalAlpha = 1;
  });
}

/** Notes as a gesture would leave them, and those that the server has not answered for yet. */
function drawPreviews(pen: Pen, p: NotesPicture, axis: Axis): void {
  const put = p.ghosts
    .filter((g) => g.at !== undefined)
    .map((g) => ({ at: g.at!, length: g.length ?? 240, pitch: g.pitch }));
  pods(pen, p, axis, put);
  if (p.pods?.moved) drawMoved(pen, p, axis, p.pods.shown, p.pods.moved);
  else if (p.pods) pods(pen, p, axis, p.pods.shown);
}

function pods(pen: Pen, { band, hue }: NotesPicture, { x, from, to }: Axis, shown: readonly Preview[]): void {
  pen.fillStyle = hue;
  pen.globalAlpha = 0.8;
  for (const { at, length, pitch } of shown) {
    if (at > to || at + length < from) continue;
    const y = yOf(band, pitch);
    const left = x(at);
    pen.fillRect(left, y - 3, Math.max(x(at + length) - left - 1, 2), 6);
    pen.fillRect(left - 0.5, y - band.rowHeight / 2 + 0.5, 3, band.rowHeight - 1);
  }
  pen.globalAlpha = 1;
}

/** Many notes that move together: their picture, drawn once for a drag and laid where they are. */
function drawMoved(
  pen: Pen,
  p: NotesPicture,
  { x, from, to }: Axis,
  shown: readonly Preview[],
  { later, up }: { later: number; up: number },
): void {
  const [width, height, reach] = [p.width * 3, p.band.ladderBottom, to - from];
  const picture = kept(moving, p.lane.id, width, height, [shown, p.band, p.hue, p.zoom, p.scroll, p.width], (own) => {
    const axis = { x: (tick: number) => x(tick) - GUTTER + p.width, from: from - reach, to: to + reach };
    pods(own, p, axis, shown);
  });
  if (!picture) return;
  pen.save();
  pen.beginPath();
  pen.rect(GUTTER, 0, p.width, height);
  pen.clip();
  pen.drawImage(picture, GUTTER - p.width + later * p.zoom, -up * p.band.rowHeight, width, height);
  pen.restore();
}
