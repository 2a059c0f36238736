// @vitest-environment jsdom
import { waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { State } from "../../src/api/gen/server.gen";
import { wholeClip } from "../../src/api/held";
import { queries } from "../../src/api/queries";
import { setPiece } from "../../src/state/actions";
import { useApp } from "../../src/state/store";
import { answer, open, reply } from "./screen";

const app = useApp.getState;

/** The first part of an answer: what the sample piece is like after its title was changed. */
const shown = (): string => {
  const state = answer<State>("keel");
  return JSON.stringify({ ...state, version: 0, piece: { ...state.piece!, title: "Other" } });
};

test("an edit is shown before it is kept, and its version counts once it is", async () => {
  open("keel");
  const titles: string[] = [];
  const stop = useApp.subscribe((s) => titles.push(`${s.piece!.title} ${s.version} ${s.saving}`));
  reply("POST /pieces", `${shown()}\n${JSON.stringify({ version: 2, undo: "change the piece", redo: "" })}\n`);
  setPiece({ title: "Other" });
  await waitFor(() => expect(app().saving).toBe(0));
  await waitFor(() => expect(app().undo).toBe("change the piece"));
  stop();
  expect(titles).toContain("Other 1 1");
  expect(app().version).toBe(2);
  expect(app().error).toBe("");
});

test.each([
  [
    "is refused then",
    JSON.stringify({ status: 422, problem: { error: "it does not fit", path: "" } }),
    "it does not fit",
  ],
])("an edit that was shown and %s is taken back, and that is said", async (_, second, said) => {
  open("keel");
  const before = app().piece;
  reply("POST /pieces", `${shown()}\n${second}\n`);
  setPiece({ title: "Other" });
  await waitFor(() => expect(app().error).toBe(said));
  expect(app().piece).toBe(before);
  expect(app().version).toBe(1);
});

test("an answer that breaks off after its first part is no edit that is kept", async () => {
  open("keel");
  const before = app().piece;
  reply("POST /pieces", `${shown()}\n`);
  setPiece({ title: "Other" });
  await waitFor(() => expect(app().unsaved?.problem).toBe("The server's answer broke off."));
  expect(app().piece).toBe(before);
  app().unsaved!.drop();
  await waitFor(() => expect(app().unsaved).toBeNull());
});

test("a change that does not fit what is held makes the page ask for all", async () => {
  open("keel");
  const wrong = { ...answer<State>("keel"), version: 0, piece: undefined, since: { list: [1] } };
  reply("POST /pieces", `${JSON.stringify(wrong)}\n${JSON.stringify({ version: 2, undo: "u", redo: "" })}\n`);
  reply("GET /pieces", { ...answer<State>("keel"), version: 2, undo: "u" });
  setPiece({ title: "Other" });
  await waitFor(() => expect(app().undo).toBe("u"));
  await waitFor(() => expect(app().saving).toBe(0));
  expect(app().version).toBe(2);
  expect(app().error).toBe("");
});

test("a newer version that somebody else made has its own pictures", async () => {
  open("keel");
  queries.setQueryData(["thumbs", app().id], answer("thumbs"));
  app().take({ ...answer<State>("keel"), version: 9 });
  expect(queries.getQueryState(["thumbs", app().id])?.isInvalidated).toBe(true);
});

test("a clip that is left stays whole where the answer has it in brief: an edit of it may be on its way", async () => {
  open("keel");
  const left = wholeClip(app().piece, "keel");
  reply("GET /pieces", answer("basin"));
  await app().openClip("basin");
  expect(app().clip).toBe("basin");
  expect(wholeClip(app().piece, "keel")).toBe(left);
  expect(wholeClip(app().shown?.piece, "keel")).toBeUndefined();
});
