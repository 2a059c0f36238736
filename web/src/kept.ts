/** What is remembered on this machine; where the browser keeps nothing, for as long as the page is open. */
const here = new Map<string, string>();

/** What was kept under a name; null: nothing. */
export function recall(name: string): string | null {
  try {
    return window.localStorage.getItem(name) ?? here.get(name) ?? null;
  } catch {
    return here.get(name) ?? null; // the browser does not let pages keep anything
  }
}

/** Keeps something under a name. */
export function keep(name: string, value: string): void {
  here.set(name, value);
  try {
    window.localStorage.setItem(name, value);
  } catch {
    // It lasts as long as the page.
  }
}

/** What was kept under a name as JSON; what cannot be read is as good as forgotten. */
export function recalled<T>(name: string, otherwise: T): T {
  try {
    return (JSON.parse(recall(name) ?? "null") as T | null) ?? otherwise;
  } catch {
    return otherwise;
  }
}
