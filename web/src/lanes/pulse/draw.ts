import { notesBetween, slotsBetween } from "../../canvas/drawing/geometry";
import { drawGrid, drawSlots, GUTTER, weightOf } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { drawLane } from "../../canvas/rails/draw";
import { token } from "../../theme";
import type { PulseLane } from "./pulse";
import { VELOCITY } from "./rails";

type PulsePicture = Picture<PulseLane>;

/** Draws a pulse lane: its row of marks, its rails. */
export function draw(pen: Pen, p: PulsePicture): void {
  drawLane(
    pen,
    p,
    (axis) => {
      drawGrid(pen, p, axis);
      drawSlots(pen, p, axis);
      drawMarks(pen, p, axis);
      drawGhosts(pen, p, axis);
    },
    () => drawName(pen, p),
  );
}

/** How high a mark stands, in pixels. */
const heightOf = (p: PulsePicture, velocity: number): number => 4 + (velocity / 127) * (p.band.rowHeight - 8);

/** Marks: a firm stem as high as the note is loud, and along its foot its length. */
function drawMarks(pen: Pen, p: PulsePicture, { x, from, to }: Axis): void {
  const foot = p.band.ladderBottom - 3;
  notesBetween(p.view, from, to, (note, i) => {
    const end = p.edge?.note === i ? p.edge.end : note.at + note.length;
    const velocity = (p.draft?.rail === VELOCITY && p.draft.values.get(note.step)) || note.velocity;
    const height = heightOf(p, velocity);
    const [left, right] = [x(note.at), Math.max(x(end) - 1, x(note.at) + 3)];
    if (p.selection.has(note.step) || p.hover === i) {
      pen.globalAlpha = 1;
      pen.lineWidth = 2.5;
      pen.strokeStyle = p.selection.has(note.step) ? token("now") : token("rule-strong");
      pen.strokeRect(left - 2, foot - height - 1.5, right - left + 3.5, height + 3);
    }
    pen.fillStyle = pen.strokeStyle = p.hue;
    pen.globalAlpha = weightOf(p, note.at) * 0.28;
    const dashed = (p.lane.steps[note.step]?.chance ?? 100) < 100;
    if (!dashed) pen.fillRect(left, foot - height, right - left, height);
    pen.globalAlpha = weightOf(p, note.at);
    if (dashed) {
      pen.setLineDash([3, 2.5]);
      pen.lineWidth = 1.2;
      pen.strokeRect(left + 0.5, foot - height + 0.5, Math.max(right - left - 1, 2), height - 1);
      pen.setLineDash([]);
    }
    pen.fillRect(left - 0.5, foot - height, 3, height);
    pen.fillRect(left, foot - 2.4, right - left, 2.4);
  });
  pen.globalAlpha = 1;
}

/** Hits that the server has not answered for yet, and those that are silent in a
 * round. */
function drawGhosts(pen: Pen, p: PulsePicture, { x, from, to }: Axis): void {
  const { view } = p;
  const foot = p.band.ladderBottom - 3;
  const [first, last] = slotsBetween(view, from, to);
  const pending = new Set(p.ghosts.map((g) => g.step));
  for (let k = first; k <= last; k++) {
    const step = view.slots[k]!;
    const left = x(view.slotAt[k]!);
    const height = heightOf(p, p.lane.steps[step]?.velocity ?? 100);
    if (pending.has(step)) {
      pen.fillStyle = p.hue;
      pen.globalAlpha = view.rounds[k] === 0 ? 0.8 : 0.35;
      pen.fillRect(left - 0.5, foot - height, 3, height);
    } else if (p.lane.steps[step]?.on && !view.sounds[k]) {
      pen.strokeStyle = p.hue;
      pen.globalAlpha = 0.5;
      pen.setLineDash([1.5, 3]);
      pen.strokeRect(left + 0.5, foot - height, 4, height);
      pen.setLineDash([]);
    }
  }
  pen.globalAlpha = 1;
}

/** The drum's or the note's name, in the gutter, as far as it fits. */
function drawName(pen: Pen, p: PulsePicture): void {
  const [row] = p.band.rows;
  if (!row) return;
  pen.font = `500 10.5px ${token("mono")}`;
  pen.fillStyle = token("ink-2");
  pen.textAlign = "right";
  pen.textBaseline = "middle";
  const name = row.name.length > 6 ? row.name.replace(/^(\w)\w* /, "$1. ") : row.name;
  pen.fillText(name, GUTTER - 5, p.band.ladderBottom - p.band.rowHeight / 2, GUTTER - 8);
}
