import { alsoKey, key, type Key } from "../../controls/key";
import { laneOf, useApp } from "../../state/store";
import { move } from "../steps/keys";

/** A row that follows the key moves along it; a drum or a note by semitones. */
function row(by: number): void {
  const lane = laneOf(useApp.getState());
  move(lane?.kind === "pulse" && lane.pitch ? "degree" : "semitone", by);
}

/** Keys of pulse lanes beside those of all lanes with steps. */
export const keys: Key[] = [
  key("ArrowUp", "↑ ↓", "Pulse", "The row a degree, or a drum's a semitone, up or down", () => row(1)),
  alsoKey("ArrowDown", "Pulse", () => row(-1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Pulse", "The row an octave up or down", () => move("octave", 1)),
  alsoKey("Alt+ArrowDown", "Pulse", () => move("octave", -1)),
];
