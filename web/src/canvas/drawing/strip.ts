import type { Cell } from "../../api/gen/piece.gen";
import { token } from "../../theme";
import type { Pen } from "./picture";

/** All steps of a lane in a row. Those that take no part in the round, and so have
 * no slot of their own, are hatched. */
export function drawStrip(
  pen: Pen,
  steps: readonly Cell[],
  active: readonly boolean[],
  selection: ReadonlySet<number>,
  hue: string,
  width: number,
  height: number,
): void {
  const ratio = window.devicePixelRatio || 1;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, width, height);
  const cell = width / steps.length;
  steps.forEach((step, i) => {
    const left = i * cell;
    if (selection.has(i)) {
      pen.fillStyle = token("now-soft");
      pen.fillRect(left, 0, cell, height);
    }
    if (!active[i]) hatch(pen, left, cell, height);
    if (step.on) {
      pen.fillStyle = hue;
      pen.globalAlpha = active[i] ? 1 : 0.5;
      pen.fillRect(left + 0.5, 2, Math.max(cell - 1.5, 1), height - 4);
      pen.globalAlpha = 1;
    }
    pen.fillStyle = token("rule-strong");
    pen.fillRect(left, height - 1.5, Math.max(cell - 1, 0.5), 1);
  });
}

function hatch(pen: Pen, left: number, cell: number, height: number): void {
  pen.strokeStyle = token("rule-strong");
  pen.lineWidth = 0.7;
  pen.save();
  pen.beginPath();
  pen.rect(left, 0, cell, height);
  pen.clip();
  pen.beginPath();
  for (let d = -height; d < cell; d += 3) {
    pen.moveTo(left + d, height);
    pen.lineTo(left + d + height, 0);
  }
  pen.stroke();
  pen.restore();
}
