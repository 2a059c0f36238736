import { expect, test } from "vitest";
import { Clocks } from "../src/audio/clocks";

/** Lets two clocks run for so many minutes, seen every 50 ms: the sound's, at a moment of the page's, in seconds.
 * Is told by how much the sound is heard too late, if its clock reads as it does; less than nothing: too early. */
function run(minutes: number, sound: (page: number) => number, seen: (late: number, page: number) => void): void {
  const clocks = new Clocks(sound(0), 0);
  for (let k = 1; k < minutes * 1200; k++) {
    const page = k / 20;
    clocks.compare(sound(page), page);
    seen(page - sound(page) - clocks.zero, page);
  }
}

/** A clock that goes in steps of 10 ms, by so many millionths too slowly. */
const stepping = (slow: number) => (page: number) => Math.floor(page * (1 - slow / 1e6) * 100 + 1e-6) / 100;

test("clocks that agree stay together", () => {
  run(10, stepping(0), (late) => expect(Math.abs(late)).toBeLessThan(1e-9));
});

test.each([300, -300])("a sound that is slow by %i millionths is followed without a leap", (slow) => {
  let [most, leap, before] = [0, 0, 0];
  run(60, stepping(slow), (late) => {
    most = Math.max(most, Math.abs(late));
    leap = Math.max(leap, Math.abs(late - before));
    before = late;
  });
  expect(most).toBeLessThan(0.012);
  expect(leap, "no more than a step of the clock").toBeLessThan(0.0105);
});

test.each([0.03, 0.5, 5])("what the sound loses, here %f s, is made good", (lost) => {
  const losing = (page: number) => stepping(0)(page > 100 ? page - lost : page);
  const far = lost > 0.08;
  run(4, losing, (late, page) => {
    expect(late, "never early").toBeGreaterThan(-1e-9);
    if (page > (far ? 102.1 : 135)) expect(late).toBeLessThan(0.002);
    if (page > (lost > 1 ? 100.1 : 102)) expect(late).toBeLessThan(0.08);
  });
});

test("a machine that reads the sound's clock late for half a minute moves nothing by more than a thousandth", () => {
  const busy = (page: number) => stepping(0)(page - (page > 200 && page < 230 ? 0.06 : 0));
  let clock: number | null = null;
  run(10, busy, (late, page) => {
    const zero = page - busy(page) - late;
    if (clock !== null) expect(Math.abs(zero - clock)).toBeLessThan(0.000051);
    clock = zero;
  });
});

test("where it begins anew long after, nothing of what was is waited for", () => {
  const clocks = new Clocks(0, 0);
  clocks.compare(10, 60, true);
  expect(clocks.zero).toBe(50);
  clocks.compare(11, 61.04, true);
  expect(clocks.zero, "what is near stays").toBe(50);
});
