import type { Note } from "../api/gen/view.gen";
import { lastAt } from "../sorted";
import type { Part, Performance } from "./performance";

type Timed = { at: number };

/** A stretch of a clip, round and round: what begins in it, with what controllers and wheels stand at when it begins.
 * What still sounds at its end ends there. */
export function looped(p: Performance, from: number, to: number): Performance {
  const inside = <T extends Timed>(list: readonly T[]): T[] =>
    list.filter(({ at }) => at >= from && at < to).map((e) => ({ ...e, at: e.at - from }));
  /** The same, with the last before it at its beginning. */
  const held = <T extends Timed>(list: readonly T[]): T[] => {
    const before = list[lastAt(list, ({ at }) => at, from)];
    const own = inside(list);
    return before && before.at <= from && own[0]?.at !== 0 ? [{ ...before, at: 0 }, ...own] : own;
  };
  const cut = (n: Note): Note => ({ ...n, length: Math.min(n.length, to - from - n.at) });
  return {
    ...p,
    name: `${p.name} ${from} ${to}`,
    from,
    ticks: to - from,
    parts: p.parts.map((part): Part => ({
      ...part,
      notes: inside(part.notes).map(cut),
      controls: inside(part.controls),
      bends: held(part.bends),
      pressures: held(part.pressures),
      wheels: inside(part.wheels),
    })),
  };
}
