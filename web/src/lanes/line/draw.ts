import { drawHandles } from "../../canvas/gestures/bends";
import { knownOf, yOf } from "../../canvas/drawing/geometry";
import { drawBeyond, drawGrid, drawNames, drawRows, drawSlots, drawTints } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { drawLane } from "../../canvas/rails/draw";
import { drawGhosts, drawPods } from "../steps/pods";
import type { LineLane } from "./line";

type LinePicture = Picture<LineLane>;

/** Draws a line: its ladder, its pods, its rails. */
export function draw(pen: Pen, p: LinePicture): void {
  drawLane(
    pen,
    p,
    (axis) => {
      drawRows(pen, p, axis);
      drawTints(pen, p, axis);
      drawGrid(pen, p, axis);
      drawSlots(pen, p, axis);
      drawPods(pen, p, axis);
      drawPortamento(pen, p, axis);
      drawHandles(pen, p, axis);
      drawGhosts(pen, p, axis);
      if (p.band.open) drawBeyond(pen, p, axis);
    },
    () => drawNames(pen, p),
  );
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
