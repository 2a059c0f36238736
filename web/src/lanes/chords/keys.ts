import { laneOf, useApp } from "../../state/store";
import { turnGlide } from "../../state/actions";
import { alsoKey, key, type Key } from "../../controls/key";
import { move, withCursor, withDegree } from "../steps/keys";
import { gliding, goToProgression, invert, last, openOrClose, placeDegree, turnVoicing, widen } from "./actions";
import { useChords } from "./state";

/** Goes through the kinds of chord that a degree gives. */
function nextKind(): void {
  const kinds = useApp.getState().words?.stacks ?? [];
  const { kind, set } = useChords.getState();
  set({ kind: kinds[(kinds.indexOf(kind) + 1) % kinds.length] ?? kind });
}

/** Keys of chords lanes beside those of all lanes with steps. */
export const keys: Key[] = [
  {
    keys: ["1", "2", "3", "4", "5", "6", "7", "8", "9"],
    shown: "1 … 9",
    group: "Chord",
    does: "The chord on that degree of the key, as many as it has, and on to the next step",
    run: (e) => withDegree(e, placeDegree),
  },
  key("q", "Q", "Chord", "The next kind of chord for the degrees: triad, 7, 9 …", nextKind),
  key("/", "/", "Chord", "Write a progression", goToProgression),
  key("u", "U", "Chord", "A third more on top; Shift takes one away", () => widen(1)),
  alsoKey("U", "Chord", () => widen(-1)),
  key("i", "I", "Chord", "Invert; Shift inverts downwards", () => invert(1)),
  alsoKey("I", "Chord", () => invert(-1)),
  key("o", "O", "Chord", "Open, or close", openOrClose),
  key("l", "L", "Chord", "Make it last a step longer; Shift, shorter", () => last(1)),
  alsoKey("L", "Chord", () => last(-1)),
  key("v", "V", "Chord", "Voices smooth, or as written", turnVoicing),
  key("j", "J", "Chord", "Edit only here, or wherever the chord stands", () => {
    const { only, set } = useChords.getState();
    set({ only: !only });
  }),
  key("g", "G", "Shape", "Glide into the chord", () => {
    const lane = laneOf(useApp.getState());
    withCursor(() => turnGlide(lane?.kind === "chords" ? gliding(lane) : null));
  }),
  key("ArrowUp", "↑ ↓", "Chord", "The chord up or down a degree", () => move("degree", 1)),
  alsoKey("ArrowDown", "Chord", () => move("degree", -1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Chord", "The step up or down an octave", () => move("octave", 1)),
  alsoKey("Alt+ArrowDown", "Chord", () => move("octave", -1)),
  key("Mod+ArrowUp", "Ctrl ↑ ↓", "Chord", "The chord up or down a semitone", () => move("semitone", 1)),
  alsoKey("Mod+ArrowDown", "Chord", () => move("semitone", -1)),
];
