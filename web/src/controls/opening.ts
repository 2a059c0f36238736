import { create } from "zustand";

/** What lies open over the page beside a button of it, panels and menus, the newest last: each as
 * what closes it. */
export const useOpening = create<{ open: readonly (() => void)[] }>(() => ({ open: [] }));

/** Says that something is open, until what it gives is called. */
export function opens(close: () => void): () => void {
  useOpening.setState((s) => ({ open: [...s.open, close] }));
  return () => useOpening.setState((s) => ({ open: s.open.filter((one) => one !== close) }));
}

export const anythingOpen = (): boolean => useOpening.getState().open.length > 0;

/** Closes what was opened last; false: nothing is open. */
export function closeNewest(): boolean {
  const close = useOpening.getState().open.at(-1);
  close?.();
  return close !== undefined;
}
