/** What the browser did not keep: it lasts as long as the page is open. */
const here = new Map<string, string>();

/** What was kept under a name; null: nothing. */
export function recall(name: string): string | null {
  try {
    return here.get(name) ?? window.localStorage.getItem(name);
  } catch {
    return null; // it does not let pages keep anything
  }
}

/** Keeps something under a name. */
export function keep(name: string, value: string): void {
  try {
    window.localStorage.setItem(name, value);
    here.delete(name);
  } catch {
    here.set(name, value);
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
