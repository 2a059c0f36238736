import { expect, test } from "vitest";
import { Clocks } from "../src/audio/clocks";

/** Lets two clocks run for so many minutes, seen every 50 ms: the sound's, at a moment of the page's, in seconds. */
function run(minutes: number, sound: (page: number) => number, seen: (zero: number, page: number) => void): void {
  const clocks = new Clocks();
  clocks.compare(sound(0), 0, true);
  for (let page = 50; page < minutes * 60_000; page += 50) {
    clocks.compare(sound(page), page);
    seen(clocks.zero, page);
  }
}

/** A clock that goes in steps of 10 ms, by so many millionths too slowly. */
const stepping = (slow: number) => (page: number) => Math.floor((page * (1 - slow / 1e6)) / 10) / 100;

test("clocks that agree keep what is sent where it is planned", () => {
  run(10, stepping(0), (zero) => expect(zero).toBe(0));
});

test("a machine that has too much to do for half a minute moves nothing", () => {
  const busy = (page: number) => stepping(0)(page - (page > 200_000 && page < 230_000 ? 60 : 0));
  run(10, busy, (zero) => expect(zero).toBe(0));
});

test("what drifts apart is made good without a leap", () => {
  let before = 0;
  let apart = 0;
  run(60, stepping(100), (zero, page) => {
    expect(Math.abs(zero - before)).toBeLessThan(0.051);
    before = zero;
    apart = Math.abs(zero - page * 1e-4);
    expect(apart).toBeLessThan(36);
  });
  expect(before).toBeGreaterThan(320);
});

test("where one stood still, as a machine that slept, they are set against each other again", () => {
  const slept = (page: number) => stepping(0)(page > 100_000 ? page - 20_000 : page);
  let last = 0;
  run(3, slept, (zero) => (last = zero));
  expect(last).toBe(20_000);
});

test("where the sound lost so much that what is sent would come too late, that is made good at once", () => {
  const lost = (page: number) => stepping(0)(page > 100_000 ? page - 500 : page);
  run(3, lost, (zero, page) => {
    if (page > 102_100) expect(Math.abs(zero - 500)).toBeLessThan(11);
  });
});
