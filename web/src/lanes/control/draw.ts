import { slotsBetween } from "../../canvas/drawing/geometry";
import { lastAt } from "../../sorted";
import { drawGrid, drawSlots, GUTTER } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { drawCurves, drawLane } from "../../canvas/rails/draw";
import { token } from "../../theme";
import { rangeOf, sentBy, valueY } from "./band";
import type { ControlLane } from "./control";

type ControlPicture = Picture<ControlLane>;

/** The rail that a draft of values is of: the curve itself. */
export const CURVE = -1;

/** Draws a control lane: its curve over the range of its values, its steps, its rails. */
export function draw(pen: Pen, p: ControlPicture): void {
  drawLane(
    pen,
    p,
    (axis) => {
      drawField(pen, p, axis);
      drawGrid(pen, p, axis);
      if (!p.lane.follows) drawSlots(pen, p, axis);
      drawCurves(pen, p, "value", (value) => valueY(p.band, rangeOf(p.lane), value), axis);
      drawSent(pen, p, axis);
      if (!p.lane.follows) drawSteps(pen, p, axis);
    },
    () => drawScale(pen, p),
  );
}

/** The ground of the curve, and, of a lane that follows another, the values allowed and
 * those reached. */
function drawField(pen: Pen, p: ControlPicture, { x }: Axis): void {
  const { band, lane, view } = p;
  const range = rangeOf(lane);
  const [left, right] = [x(0), x(p.ticks)];
  pen.fillStyle = token("paper-2");
  pen.fillRect(left, band.ladderTop, right - left, band.ladderBottom - band.ladderTop);
  if (!lane.follows) return;
  const strip = (a: number, b: number, alpha: number) => {
    const [top, foot] = [valueY(band, range, Math.max(a, b)), valueY(band, range, Math.min(a, b))];
    pen.globalAlpha = alpha;
    pen.fillRect(left, top, right - left, Math.max(foot - top, 1.5));
    pen.globalAlpha = 1;
  };
  pen.fillStyle = token("paper-3");
  strip(lane.follows.from, lane.follows.to, 1);
  pen.fillStyle = p.hue;
  if (view.reach) strip(view.reach.least, view.reach.most, 0.16);
}

/** What is sent: each value holds until the next. */
function drawSent(pen: Pen, p: ControlPicture, { x, from, to }: Axis): void {
  const sent = sentBy(p.lane, p.view);
  if (!sent.length) return;
  const range = rangeOf(p.lane);
  const y = (value: number) => valueY(p.band, range, value);
  const foot = y(Math.max(range[0], 0));
  const first = Math.max(
    lastAt(sent, (s) => s.at, from),
    0,
  );
  const trace = () => {
    for (let i = first; i < sent.length && sent[i]!.at <= to; i++) {
      const { at, value } = sent[i]!;
      pen.lineTo(x(at), y(value));
      pen.lineTo(x(Math.min(sent[i + 1]?.at ?? p.ticks, p.ticks)), y(value));
    }
  };
  pen.globalAlpha = p.view.audible ? 0.2 : 0.1;
  pen.fillStyle = p.hue;
  pen.beginPath();
  pen.moveTo(x(sent[first]!.at), foot);
  trace();
  pen.lineTo(x(Math.min(to, p.ticks)), foot);
  pen.fill();
  pen.globalAlpha = p.view.audible ? 1 : 0.45;
  pen.strokeStyle = p.hue;
  pen.lineWidth = p.band.open ? 1.8 : 1.4;
  pen.lineJoin = "round";
  pen.beginPath();
  trace();
  pen.stroke();
  pen.globalAlpha = 1;
}

/** The steps that set a value: a diamond at its height; while values are drawn, those. */
function drawSteps(pen: Pen, p: ControlPicture, { x, from, to }: Axis): void {
  if (!p.band.open) return;
  const { lane, view } = p;
  const range = rangeOf(lane);
  const moved = view.moved.find((m) => m.field === "value");
  const [first, last] = slotsBetween(view, from, to);
  for (let k = first; k <= last; k++) {
    const index = view.slots[k]!;
    const step = lane.steps[index];
    const drafted = p.draft?.rail === CURVE ? p.draft.values.get(index) : undefined;
    if (!step || (!step.on && drafted === undefined)) continue;
    const comes = moved?.values[k] ?? step.value;
    const [cx, cy] = [x(view.slotAt[k]!), valueY(p.band, range, drafted ?? comes)];
    const size = p.selection.has(index) ? 5.5 : 4;
    pen.globalAlpha = view.rounds[k] === 0 ? 1 : 0.55;
    if (comes !== step.value) {
      pen.fillStyle = p.hue; // what is written, beside what it comes to
      pen.fillRect(cx - 5, valueY(p.band, range, step.value) - 0.75, 10, 1.5);
    }
    pen.fillStyle = view.sounds[k] || drafted !== undefined ? p.hue : token("paper");
    pen.strokeStyle = p.selection.has(index) ? token("now") : p.hue;
    pen.lineWidth = p.selection.has(index) ? 2.2 : 1.2;
    pen.beginPath();
    pen.moveTo(cx, cy - size);
    pen.lineTo(cx + size, cy);
    pen.lineTo(cx, cy + size);
    pen.lineTo(cx - size, cy);
    pen.closePath();
    pen.fill();
    pen.stroke();
  }
  pen.globalAlpha = 1;
}

/** The ends of the range at the side. */
function drawScale(pen: Pen, p: ControlPicture): void {
  const range = rangeOf(p.lane);
  pen.font = `400 10.5px ${token("mono")}`;
  pen.fillStyle = token("ink-2");
  pen.textAlign = "right";
  pen.textBaseline = "middle";
  const marks = p.band.open ? [range[0], Math.round((range[0] + range[1]) / 2), range[1]] : [range[1]];
  for (const value of marks) {
    const y = valueY(p.band, range, value);
    pen.fillText(String(value), GUTTER - 6, Math.min(Math.max(y, p.band.ladderTop + 4), p.band.ladderBottom - 4));
  }
}
