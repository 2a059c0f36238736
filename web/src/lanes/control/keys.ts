import type { ControlStep } from "../../api/gen/piece.gen";
import { alsoKey, key, type Key } from "../../controls/key";
import { setEach } from "../../state/actions";
import { laneOf, useApp } from "../../state/store";
import { withCursor } from "../steps/keys";
import { rangeOf } from "./band";

/** Moves the values of the selected steps, within what the target takes. */
function by(amount: number): void {
  const lane = laneOf(useApp.getState());
  if (lane?.kind !== "control") return;
  const [low, high] = rangeOf(lane);
  withCursor(() => setEach<ControlStep>("value", (s) => Math.min(Math.max(s.value + amount, low), high)));
}

/** Keys of control lanes beside those of all lanes with steps. */
export const keys: Key[] = [
  key("ArrowUp", "↑ ↓", "Control", "The value up or down", () => by(1)),
  alsoKey("ArrowDown", "Control", () => by(-1)),
  key("Alt+ArrowUp", "Alt ↑ ↓", "Control", "The value up or down by 10", () => by(10)),
  alsoKey("Alt+ArrowDown", "Control", () => by(-10)),
];
