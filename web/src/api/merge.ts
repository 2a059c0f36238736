/** What turns one value into another, as the server's package since tells it: the value is replaced; or members of an
 * object change, and some go; or, from a list's first item on, so many stay (2) or go (-1), some come ([..]), one
 * changes ({..}). What is not told of stays. */
export type Change =
  | { to: unknown }
  | { list: readonly (number | readonly unknown[] | Change)[] }
  | { in?: Readonly<Record<string, Change>>; out?: readonly string[] };

/** A change that is not one of the value that is held. */
export class MergeError extends Error {}

/** The value after a change. What has not changed keeps its identity, and is not drawn again. */
export function merge<T>(held: T, change: Change): T {
  if ("to" in change) return change.to as T;
  if ("list" in change) return mergeList(held, change.list) as T;
  if (!change.in && !change.out) return held;
  if (typeof held !== "object" || held === null) throw new MergeError("There is no object to change.");
  const out = { ...held } as Record<string, unknown>;
  for (const [name, inner] of Object.entries(change.in ?? {})) out[name] = merge(out[name], inner);
  for (const name of change.out ?? []) delete out[name];
  return out as T;
}

function mergeList(held: unknown, entries: readonly (number | readonly unknown[] | Change)[]): unknown[] {
  if (!Array.isArray(held)) throw new MergeError("There is no list to change.");
  const out: unknown[] = [];
  let at = 0;
  const pass = (count: number) => {
    if (at + count > held.length) throw new MergeError(`A list of ${held.length} has no item ${at + count}.`);
    at += count;
  };
  for (const entry of entries) {
    if (typeof entry === "number") {
      if (entry > 0) for (let k = 0; k < entry; k++) out.push(held[at + k]);
      pass(Math.abs(entry));
    } else if (isList(entry)) {
      for (const item of entry) out.push(item);
    } else {
      pass(1);
      out.push(merge(held[at - 1], entry));
    }
  }
  for (; at < held.length; at++) out.push(held[at]);
  return out;
}

const isList = (entry: object): entry is readonly unknown[] => Array.isArray(entry);
