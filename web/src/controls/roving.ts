import type { KeyboardEvent } from "react";

/** Moves a choice among so many, so many of which stand in a row, by arrow keys, across round and round; null: the key
 * is not for it. */
export function moved(key: string, at: number, count: number, across = 1): number | null {
  const by = { ArrowDown: across, ArrowUp: -across, ArrowRight: 1, ArrowLeft: -1 }[key];
  if (by === undefined || !count) return null;
  if (at < 0) return 0;
  if (Math.abs(by) === 1) return (at + by + count) % count;
  return at + by >= 0 && at + by < count ? at + by : at;
}

/** Goes by arrow keys from one of the buttons in a group to another, and chooses it: Tab comes to the group once. */
export function rove(e: KeyboardEvent<HTMLElement>): void {
  const all = [...e.currentTarget.querySelectorAll("button")];
  const row = all.filter((b) => b.offsetTop === all[0]?.offsetTop).length;
  const at = all.indexOf(document.activeElement as HTMLButtonElement);
  const to = moved(e.key, at, all.length, row === all.length ? 1 : row);
  if (to === null) return;
  e.preventDefault();
  all[to]!.focus();
  all[to]!.click();
}

/** Whether Tab comes to one of a group: to the one that is chosen, or to the first where none is. */
export const tabOf = (chosen: boolean, any: boolean, first: boolean): 0 | -1 => (chosen || (!any && first) ? 0 : -1);
