import { expect, test } from "vitest";
import { between } from "../src/audio/events";

const events = [0, 240, 240, 480, 960].map((at, i) => ({ at, i }));
const within = (low: number, high: number) => {
  const out: number[] = [];
  between(events, low, high, (e) => out.push(e.i));
  return out;
};

test("every event is scheduled once, in order, however time is cut into stretches", () => {
  expect(within(0, 961)).toEqual([0, 1, 2, 3, 4]);
  for (const cuts of [
    [0, 1, 240, 241, 961],
    [0, 100.5, 239.9, 480, 480.1, 961],
    [0, 961],
  ]) {
    const all = cuts.slice(1).flatMap((high, k) => within(cuts[k]!, high));
    expect(all).toEqual([0, 1, 2, 3, 4]);
  }
});
test("a stretch holds its beginning and not its end", () => {
  expect(within(240, 480)).toEqual([1, 2]);
  expect(within(961, 5000)).toEqual([]);
});
