import { beyond, notesBetween, yOf } from "../../drawing/geometry";
import { drawBeyond, drawGrid, drawNames, drawRows, drawTints, frame } from "../../drawing/ground";
import type { Axis, Pen, Picture } from "../../drawing/picture";
import { token } from "../../theme";
import type { LayerLane } from "./layer";

/** Draws a layer: hollow pods at its own pitches. */
export function draw(pen: Pen, p: Picture<LayerLane>): void {
  frame(
    pen,
    p,
    (axis) => {
      drawRows(pen, p, axis);
      drawTints(pen, p, axis);
      drawGrid(pen, p, axis);
      drawHollow(pen, p, axis);
      if (p.band.open) drawBeyond(pen, p, axis);
    },
    () => drawNames(pen, p),
  );
}

function drawHollow(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  const { band } = p;
  pen.lineWidth = 1.3;
  notesBetween(p.view, from, to, (note, i) => {
    if (beyond(band, note.pitch)) return;
    const y = yOf(band, note.pitch);
    const weight = band.open ? 4 + (note.velocity / 127) * 6.5 : 4;
    const [left, right] = [x(note.at), Math.max(x(note.at + note.length) - 1, x(note.at) + 3)];
    if (p.hover === i) {
      pen.fillStyle = token("paper-3");
      pen.fillRect(left - 2, y - weight / 2 - 2, right - left + 4, weight + 4);
    }
    pen.globalAlpha = p.view.audible ? 1 : 0.4;
    pen.fillStyle = token("paper");
    pen.strokeStyle = p.hue;
    pen.fillRect(left, y - weight / 2, right - left, weight);
    pen.strokeRect(left + 0.6, y - weight / 2 + 0.6, right - left - 1.2, weight - 1.2);
    const stem = band.open ? band.rowHeight - 1 : 7;
    pen.fillStyle = p.hue;
    pen.fillRect(left - 0.5, y - stem / 2, 1.6, stem);
    pen.globalAlpha = 1;
  });
}
