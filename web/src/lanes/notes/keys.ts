import { useApp } from "../../state/store";
import { alsoKey, key, type Key } from "../../controls/key";
import { removePoint } from "../../canvas/gestures/bends";
import { withDegree } from "../steps/keys";

const app = useApp.getState;

/** What the keys do is loaded when one is first pressed. */
const act = (run: (actions: typeof import("./actions")) => unknown): void => void import("./actions").then(run);

const all = () => {
  const count = app().view?.lanes.find((l) => l.id === app().lane)?.free?.rows.length ?? 0;
  app().select(Array.from({ length: count }, (_, i) => i));
};

/** Keys of free notes; what steps and they have in common has the keys of steps. */
export const keys: Key[] = [
  key("ArrowRight", "→ ←", "Walk", "Next or previous note; Shift keeps the selection", (e) =>
    act((a) => a.walk(1, e.shiftKey)),
  ),
  alsoKey("ArrowLeft", "Walk", (e) => act((a) => a.walk(-1, e.shiftKey))),
  alsoKey("Mod+a", "Walk", all),
  key("ArrowUp", "↑ ↓", "Note", "Up or down a degree", () => act((a) => a.shift("degree", 1))),
  alsoKey("ArrowDown", "Note", () => act((a) => a.shift("degree", -1))),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Note", "Up or down an octave", () => act((a) => a.shift("octave", 1))),
  alsoKey("Alt+ArrowDown", "Note", () => act((a) => a.shift("octave", -1))),
  key("Mod+ArrowUp", "Ctrl ↑ ↓", "Note", "Up or down a semitone", () => act((a) => a.shift("semitone", 1))),
  alsoKey("Mod+ArrowDown", "Note", () => act((a) => a.shift("semitone", -1))),
  key("Alt+ArrowRight", "Alt → ←", "Free notes", "Later or earlier by the grid", () => act((a) => a.moveLater(1))),
  alsoKey("Alt+ArrowLeft", "Free notes", () => act((a) => a.moveLater(-1))),
  {
    keys: ["1", "2", "3", "4", "5", "6", "7", "8", "9"],
    shown: "1 … 9",
    group: "Note",
    does: "On that degree of the key, as many as it has",
    run: (e) => withDegree(e, (degree) => act((a) => a.each(() => ({ degree, alter: 0 })))),
  },
  key("Delete", "Del", "Free notes", "Take the notes away", () => removePoint() || act((a) => a.remove())),
  alsoKey("Backspace", "Free notes", () => act((a) => a.remove())),
  alsoKey("r", "Free notes", () => act((a) => a.remove())),
  key("/", "/", "Free notes", "Cut in two at the pointer", () => act((a) => a.cutAtPointer())),
  {
    keys: ["Alt+2", "Alt+3", "Alt+4", "Alt+5", "Alt+6", "Alt+7", "Alt+8"],
    shown: "Alt 2 … 8",
    group: "Free notes",
    does: "Cut into so many even parts",
    run: (e) => act((a) => a.cutInto(Number(e.key) || Number(e.code.slice(-1)))),
  },
  key("j", "J", "Free notes", "Join notes of one pitch", () => act((a) => a.join())),
  key("f", "F", "Free notes", "Take as the motif that Alt stamps; with nothing selected forget it", () =>
    act((a) => a.takeMotif()),
  ),
  key("Alt+Home", "Alt Home", "Free notes", "Bring to the start", () => act((a) => a.bringToStart())),
  key(",", ", .", "Free notes", "Shorter or longer by half the grid", () => act((a) => a.lengthen(-1))),
  alsoKey(".", "Free notes", () => act((a) => a.lengthen(1))),
  alsoKey("Mod+c", "Many", () => act((a) => a.copy())),
  alsoKey("Mod+v", "Many", () => act((a) => a.paste())),
  alsoKey("Mod+d", "Many", () => act((a) => a.repeat())),
  key("g", "G", "Shape", "Glide into the note", () =>
    act((a) => a.each((n) => ({ glide: n.glide ? null : { time: 50, curve: 0 } }))),
  ),
];
