import { expect, test } from "vitest";
import { Stalls } from "../src/audio/stalls";

test("the longest stall of the last half minute is reckoned with, up to half a second", () => {
  const stalls = new Stalls();
  const after = (at: number, long: number) => {
    stalls.turn(at, long);
    return Number(stalls.longest.toFixed(3));
  };
  expect(after(0, 0.05), "turns as they are").toBe(0);
  expect(after(10, 0.26)).toBe(0.2);
  expect(after(20, 0.16), "a shorter one changes nothing").toBe(0.2);
  expect(after(39, 0.05)).toBe(0.2);
  expect(after(41, 0.05), "until the longer is long past").toBe(0.1);
  expect(after(51, 0.05)).toBe(0);
  expect(after(60, 30), "a sleep is not reckoned with in full").toBe(0.5);
});
