import type { Op } from "../api/gen/schema.gen";
import { wholeClip } from "../api/held";
import type { App } from "./app";

/** What of the state an answer gives: what is shown, and which version of the piece it is. */
const DOCUMENT = [
  "id",
  "version",
  "undo",
  "redo",
  "shown",
  "sum",
  "also",
  "piece",
  "view",
  "trouble",
  "clip",
] as const satisfies (keyof App)[];

/** What an answer follows: where one works. */
const PLACE = ["lane", "selection", "cursor"] as const satisfies (keyof App)[];

export type Answered = Pick<App, (typeof DOCUMENT)[number] | (typeof PLACE)[number]>;

const pick = <K extends keyof App>(s: App, names: readonly K[]): Pick<App, K> =>
  Object.fromEntries(names.map((name) => [name, s[name]])) as Pick<App, K>;

export const answered = (s: App): Answered => pick(s, [...DOCUMENT, ...PLACE]);

/** Edits that are shown and heard, and not kept. */
export interface Tried {
  /** By which it is told from what else is tried: another one is heard as another clip is, from the next bar on. Empty:
   * it is heard at once. */
  name: string;
  ops: Op[];
  /** What is kept. */
  kept: Answered;
}

/** Shows what is kept, where something is tried. Where one works stays, unless that is only tried itself. */
export function untried(s: App): Partial<App> {
  if (!s.tried) return {};
  const { lane, selection, cursor, ...document } = s.tried.kept;
  const stays = wholeClip(document.piece, document.clip)?.lanes.some((l) => l.id === s.lane);
  return { ...document, ...(stays ? {} : { lane, selection, cursor }), tried: null };
}

/** The state as it is kept: what edits are worked out from, whatever is tried. */
export const keptOf = (s: App): App => ({ ...s, ...untried(s) });

/** What is tried beside what is kept. */
export const triedOver = (s: App, ops: Op[], name: string): Tried => ({
  name,
  ops,
  kept: s.tried?.kept ?? answered(s),
});
