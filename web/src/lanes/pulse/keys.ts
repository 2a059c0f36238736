import { alsoKey, key, type Key } from "../../keys/key";
import { move } from "../steps/keys";

/** Keys of pulse lanes beside those of all lanes with steps. */
export const keys: Key[] = [
  key("ArrowUp", "↑ ↓", "Pulse", "The row a semitone up or down", () => move("semitone", 1)),
  alsoKey("ArrowDown", "Pulse", () => move("semitone", -1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Pulse", "The row an octave up or down", () => move("octave", 1)),
  alsoKey("Alt+ArrowDown", "Pulse", () => move("octave", -1)),
];
