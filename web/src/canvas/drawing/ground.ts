import { token } from "../../theme";
import { beyond, knownOf, notesBetween, slotAt, slotsBetween, yOf } from "./geometry";
import { lastAt } from "../../sorted";
import type { Axis, Pen, Picture } from "./picture";

/** Where the note names stand, left of the time axis. */
export const GUTTER = 46;

/** Clears the canvas, draws what is in the time axis clipped to it, and then the
 * gutter. */
export function frame(pen: Pen, p: Picture, inside: (axis: Axis) => void, gutter: () => void): void {
  const ratio = window.devicePixelRatio || 1;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, p.width + GUTTER, p.band.height);
  pen.save();
  pen.beginPath();
  pen.rect(GUTTER, 0, p.width, p.band.height);
  pen.clip();
  const x = (tick: number) => GUTTER + tick * p.zoom - p.scroll;
  const axis = { x, from: p.scroll / p.zoom, to: Math.min(p.ticks, (p.scroll + p.width) / p.zoom) };
  inside(axis);
  drawStems(pen, p, axis);
  pen.restore();
  pen.fillStyle = token("paper");
  pen.fillRect(0, 0, GUTTER, p.band.height);
  gutter();
}

/** The onsets that handles snap to, fainter than the notes and finer than the grid. */
function drawStems(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  pen.fillStyle = token("ink");
  pen.globalAlpha = 0.13;
  for (let i = lastAt(p.stems, (at) => at, from); i < p.stems.length && (p.stems[i] ?? 0) <= to; i++)
    if (i >= 0) pen.fillRect(x(p.stems[i]!) - 0.75, 0, 1.5, p.band.height);
  pen.globalAlpha = 1;
}

/** The rows of the ladder: the tonic's tinted, those outside the key shaded. */
export function drawRows(pen: Pen, p: Picture, { x }: Axis): void {
  const { band } = p;
  const [left, right] = [x(0), x(p.ticks)];
  band.rows.forEach((row, i) => {
    const y = band.ladderBottom - (i + 1) * band.rowHeight;
    if (row.tonic || !row.inKey) {
      pen.globalAlpha = row.tonic ? 1 : 0.55;
      pen.fillStyle = token(row.tonic ? "paper-2" : "paper-3");
      pen.fillRect(left, y, right - left, band.rowHeight);
    }
    if (band.open) {
      pen.globalAlpha = 0.55;
      pen.fillStyle = token("rule");
      pen.fillRect(left, y + band.rowHeight - 0.5, right - left, 0.5);
    }
  });
  pen.globalAlpha = 1;
}

/** The rungs of the sounding chord, tinted as the harmony moves; those of its root are
 * marked where it begins. */
export function drawTints(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  if (!p.harmony) return;
  const { band } = p;
  const { chords } = p.harmony;
  for (
    let i = Math.max(
      lastAt(chords, (c) => c.at, from),
      0,
    );
    i < chords.length && chords[i]!.at <= to;
    i++
  ) {
    const { at, classes } = chords[i]!;
    const [left, right] = [x(at), x(Math.min(chords[i + 1]?.at ?? p.ticks, p.ticks))];
    band.rows.forEach((row, r) => {
      const place = classes.indexOf(row.pitch % 12);
      if (place < 0) return;
      const y = band.ladderBottom - (r + 1) * band.rowHeight;
      pen.fillStyle = token("tint");
      pen.fillRect(left, y, right - left - 1, band.rowHeight);
      if (place === 0 && band.open) {
        pen.fillStyle = token("rule-strong");
        pen.fillRect(left, y + 1, 2, band.rowHeight - 2);
      }
    });
  }
}

/** Bar and beat lines. */
export function drawGrid(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  for (let t = Math.floor(from / p.beatTicks) * p.beatTicks; t <= to; t += p.beatTicks) {
    const bar = t % p.barTicks === 0;
    if (!bar && p.beatTicks * p.zoom < 10) continue;
    pen.fillStyle = bar ? token("rule-strong") : token("rule");
    pen.globalAlpha = bar ? 0.65 : 0.8;
    pen.fillRect(x(t) - 0.5, 0, bar ? 1 : 0.7, p.band.height);
  }
  pen.globalAlpha = 1;
}

/** Columns of the steps: the selection, the cursor, step lines and seams. */
export function drawSlots(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  const { view, band } = p;
  const width = view.stepTicks * p.zoom;
  const [first, last] = slotsBetween(view, from, to);
  for (let k = first; k <= last; k++) {
    const left = x(view.slotAt[k]!);
    const step = view.slots[k]!;
    const fresh = view.rounds[k] === 0;
    if (p.selection.has(step)) {
      pen.fillStyle = token("now-soft");
      pen.globalAlpha = fresh ? 0.9 : 0.4;
      pen.fillRect(left, 0, width, band.height);
      pen.globalAlpha = 1;
    }
    if (p.cursor === step && fresh) {
      pen.fillStyle = token("now");
      pen.fillRect(left, 0, width, 3);
    }
    if (width >= 6) {
      pen.fillStyle = token("rule");
      pen.globalAlpha = 0.55;
      pen.fillRect(left, 0, 0.5, band.height);
      pen.globalAlpha = 1;
    }
    if (k > 0 && view.rounds[k] !== view.rounds[k - 1]) drawSeam(pen, left, band.height);
  }
  if (!band.open || view.clocked) return;
  // By its marks a window is dragged at its ends, too.
  const { seams } = knownOf(view);
  if ("window" in p.lane && p.lane.window && seams.length) drawMark(pen, x(seams[0]!));
  if (seams.at(-1) === p.ticks) drawMark(pen, x(p.ticks));
}

function drawMark(pen: Pen, left: number): void {
  pen.fillStyle = token("ink-2");
  pen.beginPath();
  pen.moveTo(left - 3.5, 0);
  pen.lineTo(left + 3.5, 0);
  pen.lineTo(left, 5);
  pen.fill();
}

/** A seam: where the lane's round starts again, drawn as a stitched line. */
export function drawSeam(pen: Pen, left: number, height: number): void {
  pen.strokeStyle = token("ink-2");
  pen.lineWidth = 1.2;
  pen.setLineDash([2, 3]);
  pen.beginPath();
  pen.moveTo(left, 0);
  pen.lineTo(left, height);
  pen.stroke();
  pen.setLineDash([]);
  drawMark(pen, left);
}

/** How strongly something is drawn: what sounds as it did in the first round lighter,
 * silent lanes fainter. */
export function weightOf(p: Picture, at: number): number {
  const again = at >= knownOf(p.view).firstRound && (p.view.repeats[slotAt(p.view, at)] ?? true);
  return (again ? 0.48 : 1) * (p.view.audible ? 1 : 0.4);
}

/** Points at notes that are out of sight, where they begin, at the ladder's edge. */
export function drawBeyond(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  const { band } = p;
  pen.fillStyle = p.hue;
  notesBetween(p.view, from, to, (note) => {
    const side = beyond(band, note.pitch);
    if (!side) return;
    const edge = side > 0 ? band.ladderTop : band.ladderBottom;
    pen.globalAlpha = weightOf(p, note.at);
    pen.beginPath();
    pen.moveTo(x(note.at), edge + side * 7);
    pen.lineTo(x(note.at) + 8, edge + side * 7);
    pen.lineTo(x(note.at) + 4, edge + side * 1);
    pen.fill();
  });
  pen.globalAlpha = 1;
}

/** A stroke that is being drawn: a contour, or the frame of a selection. */
export function drawStroke(pen: Pen, stroke: Picture["stroke"]): void {
  const [start, end] = [stroke?.points[0], stroke?.points.at(-1)];
  if (!stroke || !start || !end) return;
  pen.strokeStyle = token("ink");
  pen.lineWidth = 1.5;
  if (stroke.kind === "frame") {
    pen.setLineDash([3, 3]);
    pen.strokeRect(
      Math.min(start[0], end[0]),
      Math.min(start[1], end[1]),
      Math.abs(end[0] - start[0]),
      Math.abs(end[1] - start[1]),
    );
    pen.setLineDash([]);
    return;
  }
  pen.beginPath();
  stroke.points.forEach(([x, y], i) => (i ? pen.lineTo(x, y) : pen.moveTo(x, y)));
  pen.stroke();
}

/** The names of the rows in the gutter: of all, or of the tonic alone. */
export function drawNames(pen: Pen, p: Picture): void {
  const { band } = p;
  pen.textBaseline = "middle";
  pen.textAlign = "right";
  if (!band.open) {
    const tonic = band.rows.find((r) => r.tonic);
    pen.font = `500 10.5px ${token("mono")}`;
    pen.fillStyle = token("ink-2");
    if (tonic) pen.fillText(tonic.name, GUTTER - 5, yOf(band, tonic.pitch));
    return;
  }
  for (const row of band.rows) {
    pen.font = `${row.tonic ? "500" : "400"} 11px ${token("mono")}`;
    pen.fillStyle = row.tonic ? token("ink") : token("ink-2");
    const y = yOf(band, row.pitch);
    pen.fillText(row.name, GUTTER - 6, y);
    if (row.tonic) pen.fillRect(GUTTER - 3, y - 5, 2, 10);
  }
}
