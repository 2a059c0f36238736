// @vitest-environment jsdom
import { expect, test } from "vitest";
import { arranged, moveAside } from "../src/canvas/gestures/aside";
import type { Ground } from "../src/canvas/gestures/gesture";
import type { Lane, Step } from "../src/api/gen/schema.gen";
import type { State } from "../src/api/gen/server.gen";
import { keptOf } from "../src/state/tried";
import { clipOf, useApp } from "../src/state/store";
import keel from "./answers/keel.json";

useApp.getState().take(structuredClone(keel) as unknown as State);
const lane = clipOf(useApp.getState())!.lanes[0] as Extract<Lane, { kind: "line" }>;
const count = lane.steps.length;
/** The lane with steps that are told apart by their velocities. */
const told = lane.steps.map((s, i) => ({ ...s, velocity: i + 1, nudge: 0 }));
lane.steps.splice(0, count, ...told);

/** What the steps are once some of them were moved. */
function after(chosen: number[], by: number, nudge: number, copies: boolean): Step[] {
  const [op] = arranged(keptOf(useApp.getState()), { clip: "keel", lane } as Ground, chosen, by, nudge, copies);
  const out: Step[] = [...told];
  if (op?.op === "steps.write") op.steps.forEach((n, i) => (out[n - 1] = op.content[i] as Step));
  return out;
}

const of = (steps: readonly Step[]) => steps.map((s) => (s as { velocity: number }).velocity);

test("one step and what it meets change places", () => {
  expect(of(after([3], 2, 0, false))).toEqual(of(told).with(3, 6).with(5, 4));
  expect(of(after([3], -3, 0, false))).toEqual(of(told).with(3, 1).with(0, 4));
});
test("several that stand side by side go together, and what they meet takes what they leave", () => {
  expect(of(after([0, 1, 2], 1, 0, false)).slice(0, 4)).toEqual([4, 1, 2, 3]);
});
test("copies leave what they are of", () => {
  expect(of(after([0, 4], 1, 0, true)).slice(0, 6)).toEqual([1, 1, 3, 4, 5, 5]);
});
test("finer than a step they are nudged, as far as a step may be", () => {
  expect(after([2], 0, 20, false)[2]).toMatchObject({ velocity: 3, nudge: 20 });
  expect(after([2], 1, 500, false)[3]).toMatchObject({ velocity: 3, nudge: 50 });
});
test("a hand that goes later goes to what is played later, in a lane that plays backwards too", () => {
  const slots = Array.from({ length: count }, (_, i) => count - 1 - i);
  const ground = {
    clip: "keel",
    lane,
    tick: (x: number) => x,
    view: { slots, slotAt: slots.map((_, i) => i * 240), stepTicks: 240 },
  } as unknown as Ground;
  const shown: number[] = [];
  const at = (x: number) => ({ x, y: 0, shift: false, alt: false });
  const gesture = moveAside(ground, at(100), count - 1, (to) => (shown.push(to), {}));
  for (const x of [100 + 480, 100, 100 - 900]) gesture.move(at(x));
  expect(shown).toEqual([count - 3, count - 1, count - 1]);
});
test("whatever is moved wherever, no step is lost, and each stands where it was moved to", () => {
  let seed = 11;
  const random = (below: number) => (seed = (seed * 48271) % 2147483647) % below;
  for (let k = 0; k < 400; k++) {
    const chosen = [...new Set(Array.from({ length: 1 + random(6) }, () => random(count)))].sort((a, b) => a - b);
    const by = random(count - chosen.at(-1)! + chosen[0]!) - chosen[0]!;
    const steps = of(after(chosen, by, 0, false));
    expect(steps.toSorted((a, b) => a - b)).toEqual(of(told));
    for (const n of chosen) expect(steps[n + by]).toBe(n + 1);
  }
});
