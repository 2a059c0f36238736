import { alsoKey, key, type Key } from "../../controls/key";
import { setSelected, turnGlide } from "../../state/actions";
import { move, withCursor } from "../steps/keys";

/** What the digits let a step play. */
const plays = ["next", "back", "again", "low", "high", "root", "chord"] as const;

/** Keys of phrases beside those of all lanes with steps. */
export const keys: Key[] = [
  {
    keys: plays.map((_, i) => String(i + 1)),
    shown: "1 … 7",
    group: "Phrase",
    does: "The step plays: next, back, again, low, high, root, chord",
    run: (e) => withCursor(() => setSelected({ on: true, play: plays[Number(e.key) - 1] })),
  },
  key("ArrowUp", "↑ ↓", "Phrase", "Offset along the scale", () => move("degree", 1)),
  alsoKey("ArrowDown", "Phrase", () => move("degree", -1)),
  key("Mod+ArrowUp", "Ctrl ↑ ↓", "Phrase", "Offset in semitones", () => move("semitone", 1)),
  alsoKey("Mod+ArrowDown", "Phrase", () => move("semitone", -1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Phrase", "The step an octave up or down", () => move("octave", 1)),
  alsoKey("Alt+ArrowDown", "Phrase", () => move("octave", -1)),
  key("g", "G", "Shape", "Glide into the step", () => withCursor(turnGlide)),
];
