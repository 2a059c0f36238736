import { expect, test } from "vitest";
import { fillPiece, fillView, wholeClip } from "../src/api/fill";
import type { PieceState, ViewState } from "../src/api/gen/server.gen";
import type { Piece } from "../src/api/gen/piece.gen";
import type { Clip } from "../src/api/gen/view.gen";
import { Queue } from "../src/state/queue";
import { laneView } from "./made";

test("work in the queue goes one after another, also after a failure", async () => {
  const queue = new Queue();
  const log: string[] = [];
  let release = () => {};
  const gate = new Promise<void>((done) => (release = done));
  const first = queue.add(async () => {
    log.push("first begins");
    await gate;
    log.push("first ends");
    throw new Error("no");
  });
  const second = queue.add(async () => {
    log.push("second");
    return 2;
  });
  await Promise.resolve();
  expect(log).toEqual(["first begins"]);
  release();
  await expect(first).rejects.toThrow("no");
  expect(await second).toBe(2);
  expect(log).toEqual(["first begins", "first ends", "second"]);
});

const lanes = ["low", "reed"].map((id) => ({ id, kind: "line", steps: [] }));
const held = {
  title: "T",
  clips: [
    { id: "keel", lanes },
    { id: "weir", lanes },
  ],
} as unknown as Piece;

test("what an answer calls the same is what one holds", () => {
  const answer = {
    title: "U",
    clips: [
      {
        id: "keel",
        lanes: [
          { id: "low", same: true },
          { id: "reed", kind: "line" },
        ],
      },
      { id: "weir", same: true },
    ],
  };
  const next = fillPiece(answer as unknown as PieceState, held, false);
  expect(next.title).toBe("U");
  expect(next.clips[1]).toBe(held.clips[1]);
  expect(wholeClip(next, "keel")?.lanes[0]).toBe(wholeClip(held, "keel")?.lanes[0]);
  expect(wholeClip(next, "keel")?.lanes[1]).not.toBe(wholeClip(held, "keel")?.lanes[1]);
});
test("a clip that is told of in brief stays whole only in the same version", () => {
  const answer = { clips: [{ id: "keel", name: "Keel", chords: false, brief: true }] } as unknown as PieceState;
  expect(wholeClip(fillPiece(answer, held, true), "keel")).toBe(wholeClip(held, "keel"));
  expect(wholeClip(fillPiece(answer, held, false), "keel")).toBeUndefined();
  expect(fillPiece(answer, null, false).clips[0]?.name).toBe("Keel");
});
test("an answer that leans on what is not there is an error, not a gap", () => {
  const answer = { clips: [{ id: "gone", same: true }] } as unknown as PieceState;
  expect(() => fillPiece(answer, held, false)).toThrow("gone");
  expect(() => fillPiece(answer, null, false)).toThrow("gone");
});
test("a view takes over only from one of the same clip", () => {
  const view = { id: "keel", lanes: [laneView(4, 1, [0])] } as unknown as Clip;
  const answer = { id: "keel", lanes: [{ id: "low", same: true }] } as unknown as ViewState;
  expect(fillView(answer, view)?.lanes[0]).toBe(view.lanes[0]);
  expect(() => fillView({ ...answer, id: "weir" }, view)).toThrow("low");
  expect(fillView(null, view)).toBeNull();
});
