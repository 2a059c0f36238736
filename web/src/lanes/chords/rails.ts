import type { ChordStep } from "../../api/gen/piece.gen";
import { facts } from "../../api/facts";
import { cellRail, type Rail } from "../../canvas/rails/rail";

const { strum, inversion } = facts.step.chords;
const { time } = strum.fields;

/** The rails of a chords lane. To add one, add a row. */
export const rails: Rail<ChordStep>[] = [
  cellRail("velocity", "chords"),
  cellRail("gate", "chords", 200),
  {
    name: strum.title,
    field: "strum",
    low: time.low,
    high: time.high,
    unit: time.unit,
    value: (s) => s.strum?.time ?? 0,
    patch: (v, s) => ({ strum: v === 0 ? null : { ...s.strum, time: v } }),
  },
  {
    name: inversion.title,
    field: "inversion",
    low: inversion.low,
    high: inversion.high,
    unit: "",
    value: (s) => s.inversion,
    patch: (v) => ({ inversion: v }),
  },
];
