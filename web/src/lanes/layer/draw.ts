import { bendAt, beyond, notesBetween, yOf } from "../../canvas/drawing/geometry";
import { drawBeyond, drawGrid, drawNames, drawRows, drawTints, frame } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { token } from "../../theme";
import { strokeAlong, wayOf } from "../steps/pods";
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

/** How thick the outline of a pod is, in pixels. */
const EDGE = 1.3;

/** A way less its end, so that an outline closes there; turned round. */
function shortened(way: readonly [number, number][]): [number, number][] {
  const out = [...way];
  for (let left = EDGE; out.length > 1;) {
    const [[x0, y0], [x1, y1]] = [out.at(-2)!, out.pop()!];
    const length = Math.hypot(x1 - x0, y1 - y0);
    if (length > left) {
      const share = left / length;
      out.push([x1 + (x0 - x1) * share, y1 + (y0 - y1) * share]);
      break;
    }
    left -= length;
  }
  return out.reverse();
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
    const way = wayOf(p, { at: note.at, end, pitch: note.pitch }, x);
    const stroke = (color: string, width: number, along: typeof way) => {
      pen.strokeStyle = color;
      pen.lineWidth = width;
      strokeAlong(pen, along);
    };
    if (p.hover === i) stroke(token("paper-3"), weight + 4, way);
    pen.globalAlpha = p.view.audible ? 1 : 0.4;
    stroke(p.hue, weight, way);
    stroke(token("paper"), weight - 2 * EDGE, shortened(shortened(way)));
    const stem = band.open ? band.rowHeight - 1 : 7;
    const y = yOf(band, note.pitch + bendAt(p.view, note, note.at));
    pen.fillStyle = p.hue;
    pen.fillRect(x(note.at) - 0.5, y - stem / 2, 1.6, stem);
    pen.globalAlpha = 1;
  });
}
