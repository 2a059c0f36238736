import type { Lane } from "../api/gen/schema.gen";

/** One key, or a few that belong together. */
export interface Key {
  keys: string[];
  /** How the list of keys shows it; empty: not on its own. */
  shown: string;
  does: string;
  group: string;
  run: (e: KeyboardEvent) => void;
  /** It changes no step: it holds where lanes are only looked at too. */
  reads?: true;
  /** Whether it does what it says for a lane; absent: for any, and where there is none. */
  holds?: (lane: Lane) => boolean;
}

/** A single key with its line in the list. */
export const key = (name: string, shown: string, group: string, does: string, run: Key["run"]): Key => ({
  keys: [name],
  shown,
  group,
  does,
  run,
});

/** A key that the line of another one already tells of. */
export const alsoKey = (name: string, group: string, run: Key["run"]): Key => ({
  keys: [name],
  shown: "",
  group,
  does: "",
  run,
});
