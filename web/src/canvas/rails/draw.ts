import type { Cell } from "../../api/gen/piece.gen";
import { RAIL_HEIGHT, railTop, slotsBetween, type Band } from "../drawing/geometry";
import { lastAt } from "../../sorted";

import { drawStroke, frame, GUTTER } from "../drawing/ground";
import type { Axis, Pen, Picture } from "../drawing/picture";
import { stepsOf } from "../../state/store";
import { token } from "../../theme";
import type { Rail } from "./rail";

/** Draws a lane that has rails: what the kind draws of it, the rails when it is open, and the
 * stroke that is being drawn; in the gutter what the kind writes there, and their names. */
export function drawLane(pen: Pen, p: Picture, inside: (axis: Axis) => void, gutter: () => void): void {
  frame(
    pen,
    p,
    (axis) => {
      inside(axis);
      if (p.band.open) drawRails(pen, p, axis);
      drawStroke(pen, p.stroke);
    },
    () => {
      gutter();
      if (p.band.open) drawRailNames(pen, p.band);
    },
  );
}

/** The rails under an open lane: a bar for each step's value. */
function drawRails(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  const { view, band } = p;
  const [first, last] = slotsBetween(view, from, to);
  const width = Math.max(view.stepTicks * p.zoom - 2, 1);
  const steps: readonly Cell[] = stepsOf(p.lane);
  band.rails.forEach((rail, r) => {
    const top = railTop(band, r);
    pen.fillStyle = token("paper-2");
    pen.fillRect(x(0), top, x(p.ticks) - x(0), RAIL_HEIGHT);
    const y = (value: number) =>
      top +
      RAIL_HEIGHT -
      1 -
      ((Math.min(Math.max(value, rail.low), rail.high) - rail.low) / (rail.high - rail.low)) * (RAIL_HEIGHT - 2);
    if (rail.field) drawCurves(pen, p, rail.field, y, { x, from, to });
    const moved = view.moved.find((m) => m.field === rail.field);
    pen.fillStyle = p.hue;
    for (let k = first; k <= last; k++) {
      const index = view.slots[k]!;
      const step = steps[index];
      const drafted = p.draft?.rail === r ? p.draft.values.get(index) : undefined;
      if (!step || (!step.on && drafted === undefined)) continue;
      const value = drafted ?? rail.value(step, index);
      const height = ((Math.min(value, rail.high) - rail.low) / (rail.high - rail.low)) * (RAIL_HEIGHT - 2);
      const left = x(view.slotAt[k]!) + 1;
      pen.globalAlpha = view.rounds[k] === 0 ? 0.9 : 0.3;
      pen.fillRect(left, top + RAIL_HEIGHT - 1 - height, Math.min(width, 9), Math.max(height, 1));
      if (value > rail.high) pen.fillRect(left + 11, top + 2, 3, 3);
      const comes = moved?.values[k];
      if (comes !== undefined && step.on) dot(pen, left + 4, y(comes), view.sounds[k] ?? false);
    }
    pen.globalAlpha = 1;
  });
}

/** Shapes that stand still and then jump. */
export const stepped: ReadonlySet<string> = new Set(["square", "steps", "jump"]);

/** The modulators that move a field, as fine curves behind its values. */
export function drawCurves(
  pen: Pen,
  p: Picture,
  field: string,
  y: (value: number) => number,
  { x, from, to }: Axis,
): void {
  pen.strokeStyle = token("ink-2");
  pen.lineWidth = 1;
  for (const curve of p.view.curves) {
    if (curve.on !== field) continue;
    pen.globalAlpha = 0.75;
    pen.beginPath();
    const first = Math.max(
      lastAt(curve.at, (at) => at, from),
      0,
    );
    const stands = stepped.has(p.lane.modulators[curve.modulator]?.shape ?? "");
    for (let i = first; i < curve.at.length && (i === first || curve.at[i - 1]! <= to); i++) {
      if (stands && i > first) pen.lineTo(x(curve.at[i]!), y(curve.value[i - 1]!));
      pen.lineTo(x(curve.at[i]!), y(curve.value[i]!));
    }
    pen.stroke();
  }
  pen.globalAlpha = 1;
}

/** What a step comes to once it is moved: a dot, hollow where the step is silent. */
function dot(pen: Pen, x: number, y: number, sounds: boolean): void {
  pen.save();
  pen.globalAlpha = 1;
  pen.fillStyle = token(sounds ? "ink" : "paper");
  pen.strokeStyle = token("ink");
  pen.lineWidth = 1;
  pen.beginPath();
  pen.arc(x, y, 2.6, 0, 2 * Math.PI);
  pen.fill();
  pen.stroke();
  pen.restore();
}

/** Their names, in the gutter. */
export function drawRailNames(pen: Pen, band: Band): void {
  pen.font = `400 10.5px ${token("sans")}`;
  pen.fillStyle = token("ink-2");
  pen.textAlign = "right";
  pen.textBaseline = "middle";
  band.rails.forEach((rail, r) => pen.fillText(rail.name, GUTTER - 4, railTop(band, r) + RAIL_HEIGHT / 2));
}

/** Which rail lies under a height; -1 without. */
export function railAt(band: Band, y: number): number {
  if (!band.open) return -1;
  return band.rails.findIndex((_, r) => y >= railTop(band, r) && y <= railTop(band, r) + RAIL_HEIGHT);
}

/** The value that a height means on a rail. */
export function railValue(band: Band, rail: Rail, r: number, y: number): number {
  const share = 1 - (y - railTop(band, r) - 1) / (RAIL_HEIGHT - 2);
  return Math.round(rail.low + Math.min(Math.max(share, 0), 1) * (rail.high - rail.low));
}
