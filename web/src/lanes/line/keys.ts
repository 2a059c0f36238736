import { setSelected, turnGlide } from "../../state/actions";
import { alsoKey, key, type Key } from "../../controls/key";
import { takeMotif } from "./motif";
import { move, withCursor, withDegree } from "../steps/keys";

/** Keys of lines beside those of all lanes with steps. */
export const keys: Key[] = [
  key("ArrowUp", "↑ ↓", "Note", "Up or down a degree", () => move("degree", 1)),
  alsoKey("ArrowDown", "Note", () => move("degree", -1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Note", "Up or down an octave", () => move("octave", 1)),
  alsoKey("Alt+ArrowDown", "Note", () => move("octave", -1)),
  key("Mod+ArrowUp", "Ctrl ↑ ↓", "Note", "Up or down a semitone", () => move("semitone", 1)),
  alsoKey("Mod+ArrowDown", "Note", () => move("semitone", -1)),
  {
    keys: ["1", "2", "3", "4", "5", "6", "7", "8", "9"],
    shown: "1 … 9",
    group: "Note",
    does: "A note on that degree of the key, as many as it has",
    run: (e) => withDegree(e, (degree) => withCursor(() => setSelected({ on: true, degree, alter: 0 }))),
  },
  key("f", "F", "Many", "Take as the motif that Alt stamps; once more: forget it", takeMotif),
  key("g", "G", "Shape", "Glide into the step", () => withCursor(turnGlide)),
];
