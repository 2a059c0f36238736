import { describe, expect, it } from "vitest";
import { nameOfKey } from "../src/controls/pressed";

const name = (key: string, code: string, shiftKey = false) => nameOfKey({ key, code, shiftKey });

describe("keys, whatever the keyboard", () => {
  it.each([
    ["a Latin letter by what it writes", "w", "KeyZ", false, "w"],
    ["a capital by Shift", "W", "KeyW", true, "W"],
    ["not by CapsLock", "D", "KeyD", false, "d"],
    ["nor does CapsLock undo Shift", "d", "KeyD", true, "D"],
    ["a Cyrillic letter by its place", "ц", "KeyW", false, "w"],
    ["and its capital", "Ц", "KeyW", true, "W"],
    ["a Greek letter by its place", "γ", "KeyG", false, "g"],
    ["an Arabic one", "ض", "KeyQ", false, "q"],
    ["a digit", "5", "Digit5", false, "5"],
    ["a digit of a keyboard that writes it with Shift", "&", "Digit1", false, "1"],
    ["the same with Shift", "1", "Digit1", true, "1"],
    ["an Arabic digit", "٣", "Digit3", false, "3"],
    ["a sign on a digit's key", "/", "Digit7", true, "/"],
    ["a sign that AltGr writes", "[", "Digit8", false, "["],
    ["the question mark where it stands elsewhere", "?", "KeyM", true, "?"],
    ["keys with names", "ArrowUp", "ArrowUp", false, "ArrowUp"],
    ["the space bar", " ", "Space", false, " "],
  ] as const)("%s: %s on %s (Shift: %s) is %s", (_, key, code, shift, want) =>
    expect(name(key, code, shift)).toBe(want),
  );
});
