import { alsoKey, key, type Key } from "../../shortcuts/key";
import {
  app,
  bringToStart,
  copy,
  cutAtPointer,
  cutInto,
  each,
  join,
  lengthen,
  moveLater,
  paste,
  remove,
  repeat,
  shift,
  takeMotif,
  walk,
} from "./actions";
import { withDegree } from "../steps/keys";

const all = () => {
  const count = app().view?.lanes.find((l) => l.id === app().lane)?.free?.rows.length ?? 0;
  app().select(Array.from({ length: count }, (_, i) => i));
};

/** Keys of free notes; what steps and they have in common has the keys of steps. */
export const keys: Key[] = [
  key("ArrowRight", "→ ←", "Walk", "Next or previous note; Shift keeps the selection", (e) => walk(1, e.shiftKey)),
  alsoKey("ArrowLeft", "Walk", (e) => walk(-1, e.shiftKey)),
  alsoKey("Mod+a", "Walk", all),
  key("ArrowUp", "↑ ↓", "Note", "Up or down a degree", () => shift("degree", 1)),
  alsoKey("ArrowDown", "Note", () => shift("degree", -1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Note", "Up or down an octave", () => shift("octave", 1)),
  alsoKey("Alt+ArrowDown", "Note", () => shift("octave", -1)),
  key("Mod+ArrowUp", "Ctrl ↑ ↓", "Note", "Up or down a semitone", () => shift("semitone", 1)),
  alsoKey("Mod+ArrowDown", "Note", () => shift("semitone", -1)),
  key("Alt+ArrowRight", "Alt → ←", "Free notes", "Later or earlier by the grid", () => void moveLater(1)),
  alsoKey("Alt+ArrowLeft", "Free notes", () => void moveLater(-1)),
  {
    keys: ["1", "2", "3", "4", "5", "6", "7", "8", "9"],
    shown: "1 … 9",
    group: "Note",
    does: "On that degree of the key, as many as it has",
    run: (e) => withDegree(e, (degree) => each(() => ({ degree, alter: 0 }))),
  },
  key("Delete", "Del", "Free notes", "Take the notes away", () => void remove()),
  alsoKey("Backspace", "Free notes", () => void remove()),
  alsoKey("r", "Free notes", () => void remove()),
  alsoKey("Enter", "Free notes", () => undefined),
  alsoKey("k", "Free notes", () => undefined),
  alsoKey("h", "Free notes", () => undefined),
  key("/", "/", "Free notes", "Cut in two at the pointer", () => void cutAtPointer()),
  {
    keys: ["Alt+2", "Alt+3", "Alt+4", "Alt+5", "Alt+6", "Alt+7", "Alt+8"],
    shown: "Alt 2 … 8",
    group: "Free notes",
    does: "Cut into so many even parts",
    run: (e) => void cutInto(Number(e.key) || Number(e.code.slice(-1))),
  },
  key("j", "J", "Free notes", "Join notes of one pitch", () => void join()),
  key("f", "F", "Free notes", "Take as the motif that Alt stamps; with nothing selected forget it", takeMotif),
  key("Alt+Home", "Alt Home", "Free notes", "Bring to the start", () => void bringToStart()),
  key(",", ", .", "Free notes", "Shorter or longer by half the grid", () => lengthen(-1)),
  alsoKey(".", "Free notes", () => lengthen(1)),
  alsoKey("Mod+c", "Many", copy),
  alsoKey("Mod+v", "Many", paste),
  alsoKey("Mod+d", "Many", () => void repeat()),
  key("g", "G", "Shape", "Glide into the note", () =>
    each((n) => ({ glide: n.glide ? null : { time: 50, curve: 0 } })),
  ),
];
