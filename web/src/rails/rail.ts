import type { Lane } from "../api/gen/schema.gen";
import { stepFacts } from "../controls/facts";
import type { Cell } from "../api/gen/piece.gen";

/** A rail draws one value of the steps. */
export interface Rail<S extends Cell = Cell> {
  name: string;
  /** The field of the document that it draws, by which modulators and odds name it. */
  field?: string;
  low: number;
  high: number;
  unit: string;
  value: (step: S) => number;
  /** The change that gives a step a value. */
  patch: (value: number, step: S) => Record<string, unknown>;
}

type CellNumber = "velocity" | "gate" | "chance" | "ratchet" | "nudge";

/** A rail of a field that steps of every kind have. Values above the highest that
 * it is drawn to are marked. */
export function cellRail(field: CellNumber, kind: Lane["kind"], high?: number): Rail {
  const fact = stepFacts(kind)[field]!;
  return {
    name: fact.title,
    field,
    low: fact.low,
    high: high ?? fact.high,
    unit: fact.unit ?? "",
    value: (s) => s[field],
    patch: (value) => ({ [field]: value }),
  };
}
