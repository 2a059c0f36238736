import { bendAt, beyond, knownOf, notesBetween, slotsBetween, yOf } from "../../drawing/geometry";
import {
  drawBeyond,
  drawGrid,
  drawNames,
  drawRows,
  drawSlots,
  drawStroke,
  frame,
  weightOf,
} from "../../drawing/ground";
import type { Axis, Pen, Picture } from "../../drawing/picture";
import type { Rail } from "../../rails/rail";
import { drawRailNames, drawRails } from "../../rails/draw";
import { token } from "../../theme";
import type { LineLane } from "./line";
import { rails } from "./rails";

type LinePicture = Picture<LineLane>;

/** Draws a line: its ladder, its pods, its rails. */
export function draw(pen: Pen, p: LinePicture): void {
  frame(
    pen,
    p,
    (axis) => {
      drawRows(pen, p, axis);
      drawGrid(pen, p, axis);
      drawSlots(pen, p, axis);
      drawPods(pen, p, axis);
      drawPortamento(pen, p, axis);
      drawGhosts(pen, p, axis);
      if (p.band.open) {
        drawBeyond(pen, p, axis);
        drawRails(pen, p, rails as Rail[], axis);
      }
      drawStroke(pen, p.stroke);
    },
    () => {
      drawNames(pen, p);
      if (p.band.open) drawRailNames(pen, p.band, rails as Rail[]);
    },
  );
}

interface Pod {
  at: number;
  end: number;
  pitch: number;
  weight: number;
  selected: boolean;
  dashed: boolean;
  hover: boolean;
}

function drawPods(pen: Pen, p: LinePicture, axis: Axis): void {
  const { band } = p;
  notesBetween(p.view, axis.from, axis.to, (note, i) => {
    if (beyond(band, note.pitch)) return;
    const end = p.edge?.note === i ? p.edge.end : note.at + note.length;
    pen.globalAlpha = weightOf(p, note.at);
    drawPod(pen, p, axis, {
      at: note.at,
      end,
      pitch: note.pitch,
      weight: band.open ? 2 + (note.velocity / 127) * 6.5 : Math.max(2, Math.min(band.rowHeight, 4.5)),
      selected: band.open && p.selection.has(note.step),
      dashed: (p.lane.steps[note.step]?.chance ?? 100) < 100,
      hover: p.hover === i,
    });
  });
  pen.globalAlpha = 1;
}

/** A pod: a stem at the onset and a bar along the note, which follows the wheel. */
function drawPod(pen: Pen, p: LinePicture, { x }: Axis, n: Pod): void {
  const { band, view } = p;
  const bent = view.bends.length > 0;
  const y0 = yOf(band, n.pitch + (bent ? bendAt(view, n.at) : 0));
  const stem = band.open ? band.rowHeight - 1 : Math.max(band.rowHeight, 7);
  const stroke = () => {
    trace(pen, p, n, x, bent);
    pen.stroke();
  };
  if (n.selected || n.hover) {
    pen.save();
    pen.globalAlpha = 1;
    pen.lineCap = "round";
    pen.strokeStyle = n.selected ? token("now") : token("paper-3");
    pen.lineWidth = n.weight + 5;
    stroke();
    pen.restore();
  }
  pen.strokeStyle = pen.fillStyle = p.hue;
  pen.lineWidth = n.weight;
  pen.lineCap = "butt";
  pen.lineJoin = "round";
  if (n.dashed) {
    const alpha = pen.globalAlpha;
    pen.globalAlpha = alpha * 0.25;
    stroke();
    pen.globalAlpha = alpha;
    pen.setLineDash([4, 3]);
    pen.lineWidth = 1.4;
    for (const side of [-1, 1]) {
      pen.save();
      pen.translate(0, (side * n.weight) / 2);
      stroke();
      pen.restore();
    }
    pen.setLineDash([]);
  } else stroke();
  pen.fillRect(x(n.at) - 0.5, y0 - stem / 2, band.open ? 3 : 2, stem);
}

function trace(pen: Pen, p: LinePicture, n: Pod, x: Axis["x"], bent: boolean): void {
  const { band, view } = p;
  const [left, right] = [x(n.at), Math.max(x(n.end) - 1, x(n.at) + 1)];
  pen.beginPath();
  if (!bent) {
    const y = yOf(band, n.pitch);
    pen.moveTo(left, y);
    pen.lineTo(right, y);
    return;
  }
  const height = (px: number) => yOf(band, n.pitch + bendAt(view, n.at + (px - left) / p.zoom));
  pen.moveTo(left, height(left));
  for (let px = left + 2; px < right; px += 2) pen.lineTo(px, height(px));
  pen.lineTo(right, height(right));
}

/** Glides between overlapping notes: a curve from the note they come from. */
function drawPortamento(pen: Pen, p: LinePicture, { x, from, to }: Axis): void {
  pen.strokeStyle = p.hue;
  pen.lineWidth = 2;
  for (const glide of knownOf(p.view).portamento) {
    if (glide.since > to) return;
    if (glide.until < from) continue;
    const [x0, x1] = [x(glide.since), x(glide.until)];
    const [y0, y1] = [yOf(p.band, glide.from), yOf(p.band, glide.to)];
    pen.beginPath();
    pen.moveTo(x0 - 3, y0);
    pen.bezierCurveTo((x0 + x1) / 2, y0, (x0 + x1) / 2, y1, x1, y1);
    pen.stroke();
  }
}

/** Notes that the server has not answered for yet, and steps that are on but
 * silent in a round. */
function drawGhosts(pen: Pen, p: LinePicture, { x, from, to }: Axis): void {
  const { view, band } = p;
  const [first, last] = slotsBetween(view, from, to);
  const pending = new Map(p.ghosts.map((g) => [g.step, g.pitch]));
  const width = view.stepTicks * p.zoom;
  for (let k = first; k <= last; k++) {
    const step = view.slots[k]!;
    const left = x(view.slotAt[k]!);
    const put = pending.get(step);
    if (put !== undefined) {
      pen.fillStyle = p.hue;
      pen.globalAlpha = view.rounds[k] === 0 ? 0.8 : 0.35;
      const y = yOf(band, put);
      pen.fillRect(left, y - band.rowHeight / 2 + 1, 3, band.rowHeight - 2);
      pen.fillRect(left, y - 3, width * 0.75, 6);
    } else if (p.lane.steps[step]?.on && !view.sounds[k] && band.open) {
      pen.strokeStyle = p.hue;
      pen.globalAlpha = 0.55;
      pen.setLineDash([1.5, 3]);
      pen.lineWidth = 1;
      pen.strokeRect(left + 1.5, yOf(band, view.pitches[step]!) - 3, Math.max(width * 0.75 - 2, 2), 6);
      pen.setLineDash([]);
    }
  }
  pen.globalAlpha = 1;
}
