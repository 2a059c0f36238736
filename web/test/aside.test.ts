// @vitest-environment jsdom
import { expect, test } from "vitest";
import { moveAside } from "../src/canvas/gestures/aside";
import type { Ground } from "../src/canvas/gestures/gesture";
import type { Lane } from "../src/api/gen/schema.gen";
import type { State } from "../src/api/gen/server.gen";
import { clipOf, useApp } from "../src/state/store";
import keel from "./answers/keel.json";

useApp.getState().take(structuredClone(keel) as unknown as State);
const lane = clipOf(useApp.getState())!.lanes[0] as Extract<Lane, { kind: "line" }>;
const count = lane.steps.length;
test("a hand that goes later goes to what is played later, in a lane that plays backwards too", () => {
  const slots = Array.from({ length: count }, (_, i) => count - 1 - i);
  const ground = {
    clip: "keel",
    lane,
    tick: (x: number) => x,
    view: { notes: [], slots, slotAt: slots.map((_, i) => i * 240), stepTicks: 240 },
  } as unknown as Ground;
  const shown: number[] = [];
  const at = (x: number) => ({ x, y: 0, shift: false, alt: false });
  const gesture = moveAside(ground, at(100), count - 1, (to) => (shown.push(to), {}));
  for (const x of [100 + 480, 100, 100 - 900]) gesture.move(at(x));
  expect(shown).toEqual([count - 3, count - 1, count - 1]);
});
