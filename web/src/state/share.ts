/** Gives back the old value wherever the new one says the same, so that what has
 * not changed keeps its identity and is not drawn again. */
export function share<T>(before: T, after: T): T {
  if (before === after || before === null || after === null || typeof before !== "object" || typeof after !== "object") {
    return before === after ? before : after;
  }
  if (Array.isArray(before) !== Array.isArray(after)) return after;
  const old = before as Record<string, unknown>;
  const next = after as Record<string, unknown>;
  const keys = Object.keys(next);
  let same = keys.length === Object.keys(old).length;
  for (const key of keys) {
    const kept = share(old[key], next[key]);
    if (kept !== old[key]) same = false;
    next[key] = kept;
  }
  return same ? before : after;
}
