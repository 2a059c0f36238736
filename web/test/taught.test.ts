// @vitest-environment jsdom
import { beforeEach, expect, test } from "vitest";
import type { State } from "../src/api/gen/server.gen";
import { controllerOf, takeTaught, teachSound, turnedBy, useTurned } from "../src/input/taught";
import { useTurning } from "../src/state/turning";
import { clipOf, useApp } from "../src/state/store";
import basin from "./answers/basin.json";
import keel from "./answers/keel.json";

const app = useApp.getState;
const take = (state: unknown) => app().take(structuredClone(state) as State);
const turn = (value: number) => takeTaught(new Uint8Array([0xb0, 74, value]));
const moved = () => useTurning.getState().all.map((m) => [m.clip, m.lane, m.values]);

beforeEach(() => {
  localStorage.clear();
  useTurned.setState({ teaching: null, of: "", moves: {} });
  useTurning.setState({ all: [] });
  take(keel);
  app().set({ error: "" });
  teachSound("low", "cutoff");
  turn(1);
});

test("a controller moves what it was taught to", () => {
  expect(turn(127)).toBe(true);
  expect(moved()).toEqual([["keel", "low", { cutoff: 100 }]]);
  expect(controllerOf(turnedBy(), "low", "cutoff")).toBe(74);
  expect(controllerOf(turnedBy(), "low", "level")).toBeUndefined();
});
test("and nothing of another clip that has a lane of that name", () => {
  take(basin);
  expect(turn(127)).toBe(false);
  expect(moved()).toEqual([]);
  expect(controllerOf(turnedBy(), "low", "cutoff")).toBeUndefined();
});
test("a lane that is gone is said", () => {
  const lanes = clipOf(app())!.lanes;
  lanes.splice(
    lanes.findIndex((l) => l.id === "low"),
    1,
  );
  expect(turn(127)).toBe(true);
  expect(app().error).toBe("Controller 74 moved Cutoff of Low in Keel, which is not there any more.");
});
test("a clip that is gone is said", () => {
  take(basin);
  const { piece } = app();
  app().set({ piece: { ...piece!, clips: piece!.clips.filter((c) => c.id !== "keel") } });
  expect(turn(127)).toBe(true);
  expect(app().error).toMatch(/which is not there any more/);
});
test("it is remembered with its piece, and no other's", () => {
  useTurned.setState({ of: "", moves: {} });
  expect(Object.keys(turnedBy())).toEqual(["74"]);
  app().set({ id: "another" });
  expect(turn(127)).toBe(false);
});
