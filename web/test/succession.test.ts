import { expect, test } from "vitest";
import type { Performance } from "../src/audio/performance";
import { Succession } from "../src/audio/succession";

const performance = (name: string, atBar = true): Performance =>
  ({ name, atBar, barTicks: 3840, ticks: 7680, parts: [] }) as unknown as Performance;

/** Plays in turns of so many ticks, with what is newest at each; gives what was played from which tick on. */
function played(turn: number, newest: (tick: number) => Performance, until: number): [string, number][] {
  const succession = new Succession();
  const out: [string, number][] = [];
  for (let done = 0; done < until;) {
    succession.meet(newest(done), done);
    const to = done + turn;
    for (let start = done; start < to;) {
      const { now, until: change } = succession.at(start);
      if (out.at(-1)?.[0] !== now!.name) out.push([now!.name, start]);
      start = Math.min(to, change);
    }
    succession.still(done);
    done = to;
  }
  return out;
}

const [keel, weir, lock] = [performance("keel"), performance("weir"), performance("lock")];

test.each([100, 137, 960, 3840])("in turns of %i ticks another one begins at the very bar line", (turn) => {
  expect(played(turn, (tick) => (tick < 1000 ? keel : weir), 20_000)).toEqual([
    ["keel", 0],
    ["weir", Math.ceil((Math.ceil(1000 / turn) * turn) / 3840) * 3840],
  ]);
});

test("an edit, and what is not to wait, is heard at once", () => {
  const edited = performance("keel");
  expect(played(100, (tick) => (tick < 1000 ? keel : edited), 8000)).toEqual([["keel", 0]]);
  expect(played(100, (tick) => (tick < 1000 ? keel : performance("weir", false)), 8000)).toEqual([
    ["keel", 0],
    ["weir", 1000],
  ]);
});

test("who changes their mind before the bar line hears only the last", () => {
  expect(played(100, (tick) => (tick < 1000 ? keel : tick < 2000 ? weir : lock), 8000)).toEqual([
    ["keel", 0],
    ["lock", 3840],
  ]);
  expect(played(100, (tick) => (tick < 1000 || tick >= 2000 ? keel : weir), 8000)).toEqual([["keel", 0]]);
});

test("what was played last goes once what follows has begun", () => {
  const succession = new Succession();
  succession.meet(keel, 0);
  succession.meet(weir, 1000);
  expect(succession.still(3839)).toBe(keel);
  expect(succession.still(3840)).toBeNull();
});
