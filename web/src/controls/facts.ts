import { facts } from "../api/gen/schema.gen";

/** What the server publishes of a field with a number. */
export interface NumberFact {
  title: string;
  doc: string;
  unit?: string;
  low: number;
  high: number;
  initial?: number;
}

/** What it publishes of a field with a few words. */
export interface ChoiceFact {
  title: string;
  doc: string;
  choices: readonly string[];
  initial?: string;
}

/** A field's name with its unit, as forms show it: "Gate %". */
export const labelOf = (fact: { title: string; unit?: string }): string =>
  fact.unit === "%" ? `${fact.title} %` : fact.title;

export { facts };
