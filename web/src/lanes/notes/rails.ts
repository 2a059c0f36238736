import type { Cell } from "../../api/gen/piece.gen";
import { facts } from "../../api/facts";
import type { Rail } from "../../canvas/rails/rail";
import type { FullNote } from "../../api/free";
import { lengthOfNew } from "./state";

const fact = facts.step.notes;
const note = (s: Cell) => s as FullNote;

/** The rails of free notes. To add one, add a row. The length is in % of the grid's step. */
export const rails: Rail[] = [
  {
    name: fact.velocity.title,
    field: "velocity",
    low: fact.velocity.low,
    high: fact.velocity.high,
    unit: "",
    value: (s) => s.velocity,
    patch: (velocity) => ({ velocity }),
  },
  {
    name: fact.length.title,
    field: "gate",
    low: 1,
    high: 400,
    unit: "%",
    value: (s) => Math.round((note(s).length * 100) / lengthOfNew()),
    patch: (v) => ({ length: Math.max(1, Math.round((v * lengthOfNew()) / 100)) }),
  },
  {
    name: fact.chance.title,
    field: "chance",
    low: fact.chance.low,
    high: fact.chance.high,
    unit: fact.chance.unit,
    value: (s) => s.chance,
    patch: (chance) => ({ chance }),
  },
];
