import { expect, test } from "vitest";
import { firstBars, heights, type Placed } from "../src/sheet/layout";

const lane = (id: string, part: Partial<Placed> = {}): Placed => ({
  id,
  closed: 58,
  least: 200,
  most: Number.POSITIVE_INFINITY,
  open: false,
  dragged: null,
  ...part,
});
const shown = (lanes: Placed[], room: number) =>
  [...heights(lanes, room)].sort().map(([id, height]) => `${id} ${height}`);

test("an open lane takes the height that closed ones leave", () => {
  expect(shown([lane("a", { open: true }), lane("b"), lane("c")], 600)).toEqual(["a 484", "b 58", "c 58"]);
});
test("several open ones share it", () => {
  expect(shown([lane("a", { open: true }), lane("b", { open: true }), lane("c")], 658)).toEqual([
    "a 300",
    "b 300",
    "c 58",
  ]);
});
test("none gets less than it needs", () => {
  expect(shown([lane("a", { open: true }), lane("b", { open: true, least: 400 })], 500)).toEqual(["a 200", "b 400"]);
  expect(shown([lane("a", { open: true })], 50)).toEqual(["a 200"]);
});
test("none gets more than suits it, and the others share the rest", () => {
  expect(shown([lane("a", { open: true }), lane("b", { open: true, most: 240 })], 800)).toEqual(["a 560", "b 240"]);
});
test("a height that was dragged stays", () => {
  expect(shown([lane("a", { open: true, dragged: 333 }), lane("b", { open: true })], 700)).toEqual(["a 333", "b 367"]);
  expect(shown([lane("a", { open: true, dragged: 20 })], 700)).toEqual(["a 200"]);
});
test("a clip that fits is shown whole, a longer one so that its steps can be hit", () => {
  expect(firstBars(2, 3840, 240, 660)).toBe(2);
  expect(firstBars(35, 3840, 240, 660)).toBe(3);
  expect(firstBars(35, 3840, 240, 1340)).toBe(6);
  expect(firstBars(4, 3840, 60, 300)).toBe(1);
});
