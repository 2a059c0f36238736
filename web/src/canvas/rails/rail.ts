import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { stepFacts, titleOf } from "../../api/facts";
import type { Cell } from "../../api/gen/piece.gen";

/** A rail draws one value of the steps. */
export interface Rail<S extends Cell = Cell> {
  name: string;
  /** The field of the document that it draws, by which modulators and odds name it. */
  field?: string;
  low: number;
  high: number;
  unit: string;
  /** What a step has, by its place from 0 too. */
  value: (step: S, index: number) => number;
  /** The change that gives a step a value; null: it is the whole lane's. */
  patch: ((value: number, step: S) => Record<string, unknown>) | null;
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

/** The rails of a lane: those of its kind, and one for each other field that something
 * moves. Fields that the kind draws elsewhere are left out. */
export function railsOf<S extends Cell>(
  own: readonly Rail<S>[],
  lane: Lane,
  view: LaneView,
  elsewhere = "",
): readonly Rail[] {
  const more = view.moved.filter((m) => m.field !== elsewhere && !own.some((r) => r.field === m.field));
  return [
    ...(own as unknown as readonly Rail[]),
    ...more.map(({ field, low, high, inSteps, written }): Rail => {
      return {
        name: titleOf(lane.kind, field),
        field,
        low,
        high,
        unit: "",
        value: (_, index) => written[index] ?? low,
        patch: inSteps ? (value) => ({ [field]: value }) : null,
      };
    }),
  ];
}
