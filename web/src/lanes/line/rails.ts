import type { LineStep } from "../../api/gen/piece.gen";
import { facts } from "../../api/facts";
import { cellRail, type Rail } from "../../canvas/rails/rail";

const glide = facts.step.line.glide;

/** The rails of a line. To add one, add a row. */
export const rails: Rail<LineStep>[] = [
  cellRail("velocity", "line"),
  cellRail("gate", "line", 200),
  cellRail("chance", "line"),
  {
    name: glide.title,
    low: glide.fields.time.low,
    high: 200,
    unit: glide.fields.time.unit,
    value: (s) => s.glide?.time ?? 0,
    patch: (v, s) => ({ glide: v === 0 ? null : { ...s.glide, time: v } }),
  },
];
