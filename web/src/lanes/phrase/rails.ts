import type { PhraseStep } from "../../api/gen/piece.gen";
import { facts } from "../../api/facts";
import { cellRail, type Rail } from "../../canvas/rails/rail";

const { offset, octave } = facts.step.phrase;

/** The rails of a phrase. To add one, add a row. */
export const rails: Rail<PhraseStep>[] = [
  cellRail("velocity", "phrase"),
  cellRail("gate", "phrase", 200),
  cellRail("chance", "phrase"),
  {
    name: offset.title,
    field: "offset",
    low: -12,
    high: 12,
    unit: "",
    value: (s) => s.offset,
    patch: (v) => ({ offset: v }),
  },
  {
    name: octave.title,
    field: "octave",
    low: octave.low,
    high: octave.high,
    unit: "",
    value: (s) => s.octave,
    patch: (v) => ({ octave: v }),
  },
];
