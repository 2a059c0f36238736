import { facts, type Lane } from "./gen/schema.gen";
import { defaultKind } from "./default";

type DefaultLane = (typeof facts)["lane"][typeof defaultKind];

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

/** What is published of the fields of a kind of lane; kinds lack those that they do not
 * have. */
export const laneFacts = (kind: Lane["kind"]): Partial<DefaultLane> =>
  facts.lane[kind] as unknown as Partial<DefaultLane>;

/** The same of the numbers of a kind's steps. */
export const stepFacts = (kind: Lane["kind"]): Readonly<Record<string, NumberFact | undefined>> =>
  facts.step[kind] as unknown as Readonly<Record<string, NumberFact | undefined>>;

/** How a field of a kind's steps, or of its lanes, is called. */
export const titleOf = (kind: Lane["kind"], field: string): string =>
  stepFacts(kind)[field]?.title ?? (laneFacts(kind) as Record<string, { title: string }>)[field]?.title ?? field;

/** What is published of the fields that lanes of any kind have, and a lane of notes. */
export const laneFact = facts.lane[defaultKind];

/** What a bend may be, the same of all that bends. */
export const bendFact = facts.step[defaultKind].bend;

export { facts };
