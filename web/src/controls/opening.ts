/** What lies open over the page beside a button of it: panels and menus, the newest last. */
const open: (() => void)[] = [];

/** Says that something is open, until what it gives is called. */
export function opens(close: () => void): () => void {
  open.push(close);
  return () => void open.splice(open.indexOf(close), 1);
}

export const anythingOpen = (): boolean => open.length > 0;

/** Closes what was opened last; false: nothing is open. */
export function closeNewest(): boolean {
  const close = open.at(-1);
  close?.();
  return close !== undefined;
}
