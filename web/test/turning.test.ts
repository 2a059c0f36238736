import { beforeEach, expect, test, vi } from "vitest";

vi.mock("../src/state/player", () => ({ retune: () => {} }));
import type { Op } from "../src/api/gen/schema.gen";
import { useApp } from "../src/state/store";
import { keepTurned, movedOf, turn, turned, useTurning } from "../src/state/turning";
import { soundOf } from "./listening";

const sent: { ops: readonly Op[]; done: (made: boolean) => void }[] = [];

beforeEach(() => {
  sent.length = 0;
  useTurning.setState({ all: [] });
  useApp.setState({
    clip: "keel",
    edit: (ops) => new Promise((done) => sent.push({ ops: ops as readonly Op[], done })),
  });
});

const set = (clip: string, lane: string, sound: object) => ({ op: "lane.set", clip, lane, patch: { sound } });

test("all that is moved is one edit, each of the clip in which it was moved", () => {
  turn("low", "cutoff", 50);
  turn("low", "cutoff", 60);
  turn("reed", "pan", -20);
  useApp.setState({ clip: "weir" });
  turn("low", "level", 10);
  keepTurned();
  keepTurned(); // by whoever lets go, too
  expect(sent.map(({ ops }) => ops)).toEqual([
    [set("keel", "low", { cutoff: 60 }), set("keel", "reed", { pan: -20 }), set("weir", "low", { level: 10 })],
  ]);
});

test("it sounds as it was let go until its edit is there, and what is moved meanwhile goes on", async () => {
  const low = soundOf("bass");
  turn("low", "cutoff", 60);
  keepTurned();
  expect(turned("low", low).cutoff).toBe(60);
  turn("low", "level", 20);
  sent[0]!.done(true);
  await Promise.resolve();
  expect(turned("low", low)).toMatchObject({ cutoff: 60, level: 20 });
  keepTurned();
  sent[1]!.done(false); // it was refused: what is kept is heard again
  await vi.waitFor(() => expect(movedOf(useTurning.getState().all, "low")).toBeUndefined());
  expect(turned("low", low)).toEqual(low);
});
