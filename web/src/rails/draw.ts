import type { Cell } from "../api/gen/piece.gen";
import { RAIL_HEIGHT, railTop, slotsBetween, type Band } from "../drawing/geometry";
import { GUTTER } from "../drawing/ground";
import type { Axis, Pen, Picture } from "../drawing/picture";
import { token } from "../theme";
import type { Rail } from "./rail";

/** The rails under an open lane: a bar for each step's value. */
export function drawRails(pen: Pen, p: Picture, rails: readonly Rail[], { x, from, to }: Axis): void {
  const { view, band } = p;
  const [first, last] = slotsBetween(view, from, to);
  const width = Math.max(view.stepTicks * p.zoom - 2, 1);
  const steps: readonly Cell[] = p.lane.steps;
  rails.forEach((rail, r) => {
    const top = railTop(band, r);
    pen.fillStyle = token("paper-2");
    pen.fillRect(x(0), top, x(p.ticks) - x(0), RAIL_HEIGHT);
    pen.fillStyle = p.hue;
    for (let k = first; k <= last; k++) {
      const index = view.slots[k]!;
      const step = steps[index];
      const drafted = p.draft?.rail === r ? p.draft.values.get(index) : undefined;
      if (!step || (!step.on && drafted === undefined)) continue;
      const value = drafted ?? rail.value(step);
      const height = ((Math.min(value, rail.high) - rail.low) / (rail.high - rail.low)) * (RAIL_HEIGHT - 2);
      const left = x(view.slotAt[k]!) + 1;
      pen.globalAlpha = view.rounds[k] === 0 ? 0.9 : 0.3;
      pen.fillRect(left, top + RAIL_HEIGHT - 1 - height, Math.min(width, 9), Math.max(height, 1));
      if (value > rail.high) pen.fillRect(left + 11, top + 2, 3, 3);
    }
    pen.globalAlpha = 1;
  });
}

/** Their names, in the gutter. */
export function drawRailNames(pen: Pen, band: Band, rails: readonly Rail[]): void {
  pen.font = `400 10.5px ${token("sans")}`;
  pen.fillStyle = token("ink-2");
  pen.textAlign = "right";
  pen.textBaseline = "middle";
  rails.forEach((rail, r) => pen.fillText(rail.name, GUTTER - 4, railTop(band, r) + RAIL_HEIGHT / 2));
}

/** Which rail lies under a height; -1 without. */
export function railAt(band: Band, y: number): number {
  for (let r = 0; band.open && r < band.rails; r++) {
    if (y >= railTop(band, r) && y <= railTop(band, r) + RAIL_HEIGHT) return r;
  }
  return -1;
}

/** The value that a height means on a rail. */
export function railValue(band: Band, rail: Rail, r: number, y: number): number {
  const share = 1 - (y - railTop(band, r) - 1) / (RAIL_HEIGHT - 2);
  return Math.round(rail.low + Math.min(Math.max(share, 0), 1) * (rail.high - rail.low));
}
