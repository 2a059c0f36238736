// @vitest-environment jsdom
import { act, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, test } from "vitest";
import type { Lane, Step } from "../../src/api/gen/schema.gen";
import type { State } from "../../src/api/gen/server.gen";
import { many } from "../../src/words";
import { LaneStarter } from "../../src/margin/motion/LaneStarter";
import { kindOf } from "../../src/lanes/kinds";
import { readTones, writeTones, wrongTones } from "../../src/lanes/phrase/tones";
import { ErrorNote } from "../../src/notices/Notices";
import { Fills } from "../../src/sheet/Fills";
import { Sheet } from "../../src/sheet/Sheet";
import { copySteps, pasteSteps, repeatSteps, setWindow } from "../../src/state/actions";
import { useSheet } from "../../src/state/sheet";
import { useApp } from "../../src/state/store";
import { answer, asked, button, field, open, reply, sent, show } from "./screen";

const app = useApp.getState;

/** The open lane, with some of its fields others. */
function having(part: Partial<Lane>): Lane {
  const { piece, clip, lane } = app();
  const clips = piece!.clips.map((c) =>
    c.id === clip && "lanes" in c
      ? { ...c, lanes: c.lanes.map((l) => (l.id === lane ? ({ ...l, ...part } as Lane) : l)) }
      : c,
  );
  useApp.setState({ piece: { ...piece!, clips } });
  return clips.flatMap((c) => ("lanes" in c ? c.lanes : [])).find((l) => l.id === lane)!;
}
const steps = (count: number): Step[] => Array.from({ length: count }, () => ({ on: true }) as unknown as Step);

test.each([
  [1, "bar", "1 bar"],
  ["1", "bar", "1 bar"],
  [0, "note", "0 notes"],
  ["21/4", "bar", "21/4 bars"],
])("%s %s", (count, one, words) => expect(many(count, one)).toBe(words));

describe("what is pasted", () => {
  beforeEach(() => {
    open("keel", "low");
  });
  const paste = async (count: number, cursor: number) => {
    useApp.setState({ clipboard: { kind: "line", steps: steps(count) }, selection: [], cursor });
    pasteSteps();
    await waitFor(() => expect(sent().length + (app().error ? 1 : 0)).toBeGreaterThan(0));
  };
  test("as far as the lane reaches leaves its length", async () => {
    await paste(4, 28);
    expect(sent().map((o) => o.op)).toEqual(["steps.write"]);
  });
  test("lets the lane grow for the rest", async () => {
    await paste(32, 16);
    expect(sent()).toMatchObject([
      { op: "lane.resize", count: 48 },
      { op: "steps.write", steps: Array.from({ length: 32 }, (_, i) => 17 + i) },
    ]);
  });
  test("is told where a lane has no room for it", async () => {
    having({ steps: steps(512) } as Partial<Lane>);
    await paste(8, 508);
    expect(sent()).toMatchObject([{ op: "steps.write", steps: [509, 510, 511, 512] }]);
    await waitFor(() => expect(app().error).toBe("The last 4 steps had no room: a lane has at most 512."));
  });
  test("is nothing where nothing was copied, and that is said", () => {
    pasteSteps();
    expect(app().error).toBe("Nothing was copied yet.");
  });
  test("comes of a copy, and again after it", async () => {
    app().select([30, 31]);
    copySteps();
    repeatSteps();
    await waitFor(() =>
      expect(sent()).toMatchObject([
        { op: "lane.resize", count: 34 },
        { op: "steps.write", steps: [33, 34] },
      ]),
    );
  });
});

describe("a window that is moved", () => {
  const moved = async (part: Parameters<typeof setWindow>[1]) => {
    const before = sent().length;
    setWindow("low", part);
    await waitFor(() => expect(sent()).toHaveLength(before + 1));
    const { window } = (sent().at(-1) as { patch: { window: { start: number; count: number } | null } }).patch;
    having({ window });
    return window;
  };
  test("keeps its length as far as it can, and has it back", async () => {
    open("keel", "low");
    having({ steps: steps(12), window: null } as Partial<Lane>);
    expect(await moved({ start: 9 })).toEqual({ start: 9, count: 4 });
    expect(await moved({ start: 3 })).toEqual({ start: 3, count: 10 });
    expect(await moved({ start: 1 })).toBeNull();
    expect(await moved({ count: 6 })).toEqual({ start: 1, count: 6 });
    expect(await moved({ start: 10 })).toEqual({ start: 10, count: 3 });
    expect(await moved({ start: 2 })).toEqual({ start: 2, count: 6 });
  });
  test("that was changed otherwise meanwhile is what it is", async () => {
    open("keel", "low");
    having({ steps: steps(12), window: null } as Partial<Lane>);
    await moved({ start: 9 });
    having({ window: { start: 9, count: 2 } });
    expect(await moved({ start: 1 })).toEqual({ start: 1, count: 2 });
  });
});

describe("what is said", () => {
  test("a remark comes with what mends it, and goes with the next edit", async () => {
    open("keel", "low");
    const { person } = show(<ErrorNote />);
    const lock = { op: "lane.set", clip: "keel", lane: "low", patch: { lock: "off" } };
    const said = {
      message: "4 of 7 notes are held by the lock of Low.",
      mends: [{ label: "Open the lock", ops: [lock] }],
    };
    const { id, version, undo, redo, piece, view, trouble } = app();
    const state = { id, version: version + 1, undo, redo, piece, view, trouble } as State;
    reply("POST /pieces/lantern-regatta/edits", { ...state, remark: said });
    await act(() => app().edit([{ op: "piece.set", patch: {} }]));
    expect(screen.getByRole("status")).toHaveTextContent("4 of 7 notes are held by the lock of Low.");
    reply("POST /pieces/lantern-regatta/edits", { ...state, version: version + 2 });
    await person.click(button("Open the lock"));
    await waitFor(() => expect(screen.queryByRole("status")).toBeNull());
    expect(sent().at(-1)).toEqual(lock);
  });
  test("a refusal is in words of the screen", async () => {
    open("keel", "low");
    show(<ErrorNote />);
    useApp.setState({ error: "Low, step 1, octave: 5 is out of reach; allowed: -4 to 4." });
    expect(await screen.findByRole("alert")).toHaveTextContent("Low, step 1, octave");
  });
});

describe("a step that is spoken", () => {
  const speak = (lane: string, step: Record<string, unknown>) => {
    const { lane: own, view } = open("keel", lane);
    const first = { ...(own as { steps: object[] }).steps[0], ...step };
    return kindOf(own).speak({ ...own, steps: [first] } as unknown as Lane, view, 0);
  };
  test.each([
    [{ on: true, chance: 60 }, /, chance 60 percent$/],
    [{ on: true, skip: true }, /, skipped$/],
    [{ on: true, ratchet: 3, tie: true }, /, tied, 3 times$/],
    [{ on: true, rounds: { of: 4, on: [1, 3] } }, /, in round 1 and 3 of 4$/],
    [{ on: false, chance: 60 }, /: rest$/],
    [{ on: true }, /gate \d+ percent$/],
  ])("%j", (step, said) => expect(speak("low", step)).toMatch(said));
});

describe("fills", () => {
  test.each([
    [[], {}, "On all 32 steps"],
    [[3], {}, "On the selected step"],
    [[0], { 0: 16 }, "On the 16 steps that the selected note runs through"],
    [[0, 20], { 0: 16 }, "On the 17 steps that the selected notes run through"],
  ])("of %j with spans %j", (selection, spans, words) => {
    const { lane, view } = open("keel", "low");
    app().select(selection as number[]);
    const all = view.spans.map((_, i) => (spans as Record<number, number>)[i] ?? 0);
    show(<Fills lane={lane} view={{ ...view, spans: all }} />);
    expect(screen.getByText(words)).toBeVisible();
  });
  test("are done with Enter in their fields", async () => {
    const { lane, view } = open("keel", "low");
    const { person } = show(<Fills lane={lane} view={view} />);
    await person.clear(field("Hits"));
    await person.type(field("Hits"), "7{Enter}");
    await waitFor(() => expect(sent()).toMatchObject([{ op: "fill.even", hits: 7 }]));
  });
});

describe("an untouched clip", () => {
  test("teaches where the first note would be, until there is one", async () => {
    open("keel", "low");
    const shown = app();
    useSheet.getState().begin(`${shown.id} keel`);
    useSheet.getState().show("low");
    const clips = shown.piece!.clips.map((c) =>
      "lanes" in c
        ? {
            ...c,
            lanes: c.lanes.map((l) => ("steps" in l ? { ...l, steps: l.steps.map((s) => ({ ...s, on: false })) } : l)),
          }
        : c,
    );
    useApp.setState({ piece: { ...shown.piece!, clips } as typeof shown.piece });
    const { again } = show(<Sheet />);
    expect(await screen.findByTestId("teaching")).toHaveTextContent("Click a line of the ladder: a note.");
    useApp.setState({ piece: shown.piece });
    again(<Sheet />);
    await waitFor(() => expect(screen.queryByTestId("teaching")).toBeNull());
  });
  test("every kind says what to do first, or does without", () => {
    const { lane } = open("keel", "low");
    expect(kindOf(lane).first).not.toBe("");
  });
});

test("a name for a new starter is sent once, however often Enter is pressed", async () => {
  const { lane } = open("keel", "low");
  reply("GET /pieces/lantern-regatta/clips/keel/starter", {
    name: "",
    known: false,
    own: false,
    differs: false,
    document: {},
  });
  reply("POST /starters", {});
  const { person } = show(<LaneStarter lane={lane} />);
  await person.click(button("Save as …"));
  await person.type(field("Name of the new starter"), "Ferry bell{Enter}{Enter}");
  await waitFor(() =>
    expect(asked.filter((a) => a.method === "POST" && a.path.startsWith("/starters"))).toHaveLength(1),
  );
});

describe("tones of a phrase's own", () => {
  const tones = [
    { degree: 1, octave: 0, alter: 0 },
    { degree: 3, octave: 0, alter: -1 },
    { degree: 5, octave: 1, alter: 2 },
  ];
  test("are written and read alike", () => {
    expect(writeTones(tones)).toBe("1 b3 ##5+1");
    expect(readTones(writeTones(tones))).toEqual(tones);
  });
  test("that are none are said", () => {
    expect(wrongTones("1 3 5")).toBe("");
    expect(wrongTones("1 H5")).toBe("“H5” is not a tone: write degrees, as in 1 b3 5 1+1.");
  });
});

test("answers of every kind are at hand", () => expect(answer<State>("keel").piece).toBeTruthy());
