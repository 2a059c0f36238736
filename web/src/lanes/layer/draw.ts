import { bendAt, beyond, notesBetween, yOf } from "../../drawing/geometry";
import { drawBeyond, drawGrid, drawNames, drawRows, drawTints, frame } from "../../drawing/ground";
import type { Axis, Pen, Picture } from "../../drawing/picture";
import { token } from "../../theme";
import { trace } from "../steps/pods";
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

/** Pods without ink, which follow the wheel as those of the original do. */
function drawHollow(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  const { band } = p;
  pen.lineCap = "butt";
  pen.lineJoin = "round";
  notesBetween(p.view, from, to, (note, i) => {
    if (beyond(band, note.pitch)) return;
    const weight = band.open ? 4 + (note.velocity / 127) * 6.5 : 4;
    const end = Math.max(note.at + note.length, note.at + 4 / p.zoom);
    const stroke = (color: string, width: number, inset: number) => {
      pen.strokeStyle = color;
      pen.lineWidth = width;
      trace(pen, p, { at: note.at + inset / p.zoom, end: end - inset / p.zoom, pitch: note.pitch }, x);
      pen.stroke();
    };
    if (p.hover === i) stroke(token("paper-3"), weight + 4, -2);
    pen.globalAlpha = p.view.audible ? 1 : 0.4;
    stroke(p.hue, weight, 0);
    stroke(token("paper"), weight - 2.6, 1.3);
    const stem = band.open ? band.rowHeight - 1 : 7;
    const y = yOf(band, note.pitch + bendAt(p.view, note.at));
    pen.fillStyle = p.hue;
    pen.fillRect(x(note.at) - 0.5, y - stem / 2, 1.6, stem);
    pen.globalAlpha = 1;
  });
}
