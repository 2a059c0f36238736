import { expect, test } from "vitest";
import { shownBy } from "../src/api/held";
import type { State } from "../src/api/gen/server.gen";
import { type Change, merge, MergeError } from "../src/api/merge";
import walk from "./answers/walk.json";

const { first, steps, last } = walk as unknown as { first: State; steps: State[]; last: State };

test("a walk of edits of every sort, each told by what it changed, ends where the server is", () => {
  let shown = shownBy(first, null);
  for (const step of steps) shown = shownBy(step, shown);
  const { piece, view, trouble, thumb } = last;
  expect(shown).toEqual({ piece, view, trouble, thumb });
  expect(steps.filter((step) => step.since).length).toBeGreaterThan(steps.length / 2);
});

test("what has not changed keeps its identity", () => {
  const held = {
    title: "T",
    lanes: [
      { id: "low", steps: [1, 2] },
      { id: "reed", steps: [3] },
    ],
  };
  const next = merge(held, { in: { lanes: { list: [{ in: { steps: { list: [1, -1, [9]] } } }] } } });
  expect(next).toEqual({ title: "T", lanes: [{ id: "low", steps: [1, 9] }, held.lanes[1]] });
  expect(next.lanes[1]).toBe(held.lanes[1]);
  expect(merge(held, {})).toBe(held);
});

test.each<[unknown, Change, unknown]>([
  [1, { to: 2 }, 2],
  [[1, 2, 3], { list: [1, -1] }, [1, 3]],
  [[1, 3], { list: [1, [2]] }, [1, 2, 3]],
  [[1, 2], { list: [-2, [8, 9]] }, [8, 9]],
  [
    { a: 1, b: 2 },
    { in: { c: { to: 3 } }, out: ["a"] },
    { b: 2, c: 3 },
  ],
  [
    { a: { b: [{ c: 1 }] } },
    { in: { a: { in: { b: { list: [{ in: { c: { to: 2 } } }] } } } } },
    { a: { b: [{ c: 2 }] } },
  ],
])("%j with %j is %j", (held, change, now) => expect(merge(held, change)).toEqual(now));

test.each<[unknown, Change]>([
  [{}, { list: [1] }],
  [[1], { list: [2] }],
  [[1], { list: [-2] }],
  [[], { list: [{ to: 1 }] }],
  [1, { in: {}, out: [] }],
  [null, { in: { a: { to: 1 } } }],
])("%j with %j is an error, not a gap", (held, change) => expect(() => merge(held, change)).toThrow(MergeError));

test("a change of what is not there is an error", () => {
  expect(() => shownBy({ since: {} } as State, null)).toThrow(MergeError);
  const held = shownBy(first, null);
  expect(shownBy({ since: {} } as State, held)).toBe(held);
});
