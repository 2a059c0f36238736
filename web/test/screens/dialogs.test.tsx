// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, test, vi } from "vitest";
import { facts } from "../../src/api/facts";
import type { Lane, Op } from "../../src/api/gen/schema.gen";
import type { State } from "../../src/api/gen/server.gen";
import { NewClip } from "../../src/clips/NewClip";
import { BassDialog } from "../../src/dialogs/bass/BassDialog";
import { ExportPanel } from "../../src/dialogs/export/ExportPanel";
import { Chooser } from "../../src/dialogs/starters/Chooser";
import { KeyPicker } from "../../src/dialogs/key/KeyPicker";
import { Home } from "../../src/home/Home";
import { ConflictDialog } from "../../src/notices/Conflict";
import { laneKinds } from "../../src/lanes/kinds";
import { listedKeys } from "../../src/shortcuts/keys";
import { KeyList } from "../../src/shortcuts/KeyList";
import { clipOf, useApp } from "../../src/state/store";
import type { Panel } from "../../src/state/app";
import { answer, asked, button, field, open, reply, sent, show } from "./screen";

const dialog = (panel: Panel) => useApp.getState().set({ panel });
const radio = (name: string) => screen.getByRole("radio", { name });
const drafts = () => asked.filter((a) => a.path.endsWith("/drafts")).map((a) => (a.body as { ops: Op[] }).ops);
const closed = () => expect(useApp.getState().panel).toBeNull();

describe("rendering to a file", () => {
  const panel = async () => {
    open("keel");
    reply("GET /pieces/lantern-regatta/clips/keel/summary", answer("summary"));
    dialog("render");
    const { person } = show(<ExportPanel />);
    await screen.findByText(/will last 2 bars/);
    return person;
  };
  const query = () => new URLSearchParams(asked.at(-1)!.path.split("?")[1]);
  test("says what the file will hold before it is made", async () => {
    await panel();
    const rows = within(screen.getByRole("table")).getAllByRole("row");
    expect(rows.map((r) => r.textContent)).toEqual([
      "TrackChannelNotesFrom – toBendsControls",
      "Low115C♯2 – E31856",
      "Reed29F♯4 – F♯500",
    ]);
    expect(screen.getByText(/4\.6 s/)).toHaveTextContent("in F♯ dorian, 1595 bytes");
  });
  test("asks for all that sounds, at the clip's own length", async () => {
    await panel();
    expect(Object.fromEntries(query())).toEqual({ ppq: "960", type: "1", lanes: "low,reed", names: "yes", bars: "2" });
  });
  test.each([
    ["One cycle", { until: "cycle", bars: null }],
    ["Until it meets the bar", { until: "realign", bars: null }],
    ["480", { ppq: "480" }],
    ["96", { ppq: "96" }],
    ["Type 0", { type: "0" }],
  ])("%s", async (name, want) => {
    const person = await panel();
    await person.click(radio(name));
    await waitFor(() => {
      for (const [part, value] of Object.entries(want)) expect(query().get(part)).toBe(value);
    });
    const link = screen.getByRole("link", { name: "Download" });
    for (const [part, value] of Object.entries(want)) {
      expect(new URL(link.getAttribute("href") ?? "").searchParams.get(part)).toBe(value);
    }
  });
  test("a lane left out is not asked for, and without any there is nothing to download", async () => {
    const person = await panel();
    await person.click(screen.getByRole("checkbox", { name: "Reed" }));
    await waitFor(() => expect(query().get("lanes")).toBe("low"));
    await person.click(screen.getByRole("checkbox", { name: "Low" }));
    expect(screen.getByText(/No lane is chosen/)).toBeVisible();
    expect(screen.getByText("Download").closest("a")).not.toHaveAttribute("href");
  });
  test("a number of bars is asked for as it is typed", async () => {
    const person = await panel();
    await person.click(field("Bars to render"));
    await person.keyboard("12{Enter}");
    await waitFor(() => expect(query().get("bars")).toBe("12"));
  });
  test("what the server refuses is said", async () => {
    open("keel");
    reply("GET /pieces/lantern-regatta/clips/keel/summary", 400);
    dialog("render");
    show(<ExportPanel />);
    expect(await screen.findByText("refused")).toBeVisible();
  });
});

describe("a bass from the chords", () => {
  const panel = () => {
    open("basin");
    dialog("bass");
    return show(<BassDialog />).person;
  };
  const made = () => sent()[0] as unknown as Record<string, unknown>;
  test("is tried from the beginning, and as the form changes", async () => {
    const person = panel();
    await waitFor(() => expect(drafts()).toMatchObject([[{ op: "bass.make", octave: 2 }]]));
    await person.type(field("Octave of the bass"), "{ArrowDown}");
    await waitFor(() => expect(drafts().at(-1)).toMatchObject([{ op: "bass.make", octave: 1 }]));
    expect(sent()).toEqual([]);
  });
  test("is asked for as the form says, and the dialog closes", async () => {
    const person = panel();
    await person.click(button("Make the bass"));
    await waitFor(closed);
    expect(made()).toMatchObject({
      op: "bass.make",
      clip: "basin",
      of: "root",
      octave: 2,
      rate: "1/8",
      rhythm: "every",
      every: 2,
      approach: "none",
      follow: false,
    });
  });
  test.each([
    ["hits spread evenly", "Hits under a chord", "7", { rhythm: "even", hits: 7 }],
    ["on every n-th step", "Every so many steps", "3", { rhythm: "every", every: 3 }],
  ])("%s", async (rhythm, label, typed, want) => {
    const person = panel();
    await person.selectOptions(field("Rhythm"), rhythm);
    await person.click(field(label));
    await person.keyboard(`${typed}{Tab}`);
    await person.click(button("Make the bass"));
    await waitFor(() => expect(made()).toMatchObject(want));
  });
  test("takes the rhythm of another lane, which is not the chords'", async () => {
    const person = panel();
    await person.selectOptions(field("Rhythm"), "a lane’s rhythm");
    expect([...(field("Lane to take the rhythm from") as HTMLSelectElement).options].map((o) => o.text)).toEqual([
      "Ground",
    ]);
    await person.click(button("Make the bass"));
    await waitFor(() => expect(made()).toMatchObject({ rhythm: "lane", from: "ground" }));
  });
  test("follows roots only where it plays them", async () => {
    const person = panel();
    await person.click(screen.getByRole("checkbox"));
    await person.selectOptions(field("It plays"), "the lowest notes");
    expect(screen.getByRole("checkbox")).toBeDisabled();
    await person.click(button("Make the bass"));
    await waitFor(() => expect(made()).toMatchObject({ of: "lowest", follow: false }));
  });
  test("given up makes none", async () => {
    const person = panel();
    await person.click(button("Cancel"));
    closed();
    expect(sent()).toEqual([]);
  });
});

describe("a change of key", () => {
  const preview = {
    key: "A major",
    notes: [],
    total: 15,
    changes: [{ clip: "Keel", lane: "Low", step: 3, from: "E2", to: "F♯2" }],
  };
  const panel = async () => {
    open("keel");
    reply("POST /pieces/lantern-regatta/key-preview", preview);
    dialog("key");
    const { person } = show(<KeyPicker />);
    await screen.findByText("1 of 15 notes change");
    return person;
  };
  test("is tried as it is chosen, by arrows too, and left with the dialog", async () => {
    const person = await panel();
    expect(drafts()).toEqual([]);
    const tonics = within(screen.getByRole("group", { name: "Tonic" })).getAllByRole("button");
    expect(tonics.filter((b) => b.tabIndex === 0)).toHaveLength(1);
    tonics.find((b) => b.tabIndex === 0)!.focus();
    await person.keyboard("{ArrowLeft}");
    await waitFor(() => expect(drafts().at(-1)).toMatchObject([{ op: "key.set", keep: "degrees" }]));
    expect(document.activeElement).toHaveAttribute("aria-pressed", "true");
    await waitFor(() => expect(useApp.getState().tried).not.toBeNull());
    await person.click(radio("Keep pitches"));
    await waitFor(() => expect(drafts().at(-1)).toMatchObject([{ op: "key.set", keep: "pitches" }]));
    cleanup();
    expect(useApp.getState().tried).toBeNull();
    expect(sent()).toEqual([]);
  });
  test("is shown before it is made", async () => {
    await panel();
    expect(within(screen.getByRole("table")).getByRole("row")).toHaveTextContent("KeelLowstep 3E2 → F♯2");
  });
  test.each([
    ["of the piece, keeping degrees", [], { op: "key.set", keep: "degrees" }],
    ["of the piece, keeping pitches", ["Keep pitches"], { op: "key.set", keep: "pitches" }],
    ["of the clip alone", ["Only Keel"], { op: "key.set", keep: "degrees", clip: "keel" }],
  ])("%s", async (_, choices, want) => {
    const person = await panel();
    for (const name of choices) await person.click(radio(name));
    await waitFor(() => expect(button("Change the key")).toBeEnabled());
    await person.click(button("Change the key"));
    await waitFor(closed);
    expect(sent()[0]).toMatchObject(want);
    expect((sent()[0] as { clip?: string }).clip).toBe((want as { clip?: string }).clip);
  });
  test("is not made while it cannot be", async () => {
    open("keel");
    reply("POST /pieces/lantern-regatta/key-preview", 400);
    dialog("key");
    show(<KeyPicker />);
    await screen.findByText("refused");
    expect(button("Change the key")).toBeDisabled();
  });
});

describe("a new clip", () => {
  test("has the piece's key unless another is chosen", async () => {
    open("keel");
    dialog("clip");
    const { person } = show(<NewClip />);
    await person.clear(field("Name of the new clip"));
    await person.type(field("Name of the new clip"), "Lantern{Enter}");
    await waitFor(() => expect(sent()).toEqual([{ op: "clip.add", name: "Lantern" }]));
  });
  test("without a name is not made", async () => {
    open("keel");
    dialog("clip");
    const { person } = show(<NewClip />);
    await person.clear(field("Name of the new clip"));
    expect(button("Make the clip")).toBeDisabled();
  });
});

describe("a piece that has moved on", () => {
  const conflict = (count: number) => {
    open("keel");
    const newer = { ...answer<State>("keel"), version: 7 };
    const edit = vi.fn(() => [{ op: "lane.double" as const, clip: "keel", lane: "low" }]);
    useApp.getState().set({ conflict: { newer, edits: Array.from({ length: count }, () => edit) } });
    return { ...show(<ConflictDialog />), edit };
  };
  test("shows the newer one, and drops the edit", async () => {
    const { person, edit } = conflict(1);
    await person.click(button("Show the newer piece, drop my edit"));
    await waitFor(() => expect(useApp.getState().version).toBe(7));
    expect(useApp.getState().conflict).toBeNull();
    expect(edit).not.toHaveBeenCalled();
  });
  test("puts all edits on top of it, made anew of what is there", async () => {
    const { person, edit } = conflict(2);
    await person.click(button("Put my edits on top of it"));
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(edit).toHaveBeenCalledTimes(2);
    expect(asked.filter((a) => a.path.endsWith("/edits")).map((a) => (a.body as { version: number }).version)).toEqual([
      7, 8,
    ]);
  });
});

describe("the first page", () => {
  const home = async (pieces: unknown = [{ id: "p1", title: "Evening", updated: "2026-01-02T03:04:05Z" }]) => {
    reply("GET /pieces", pieces);
    reply("GET /deleted/pieces", []);
    reply("GET /pieces/p1", answer("keel"));
    const { person } = show(<Home trouble="" />);
    return person;
  };
  test("lists pieces and opens one", async () => {
    const person = await home();
    await person.click(await screen.findByText("Evening"));
    expect(window.location.pathname).toBe("/piece/p1");
  });
  const three = [
    { id: "p1", title: "Evening 10", updated: "2026-01-02T03:04:05Z" },
    { id: "p2", title: "Evening 9", updated: "2026-01-03T03:04:05Z" },
    { id: "p3", title: "Night", updated: "2026-01-01T03:04:05Z" },
  ];
  const shown = () => screen.queryAllByRole("button", { name: /^Delete/ }).map((b) => b.getAttribute("aria-label"));
  test("finds pieces by name, and orders them", async () => {
    const person = await home(three);
    await screen.findByText("Night");
    expect(shown()).toEqual(["Delete Evening 10", "Delete Evening 9", "Delete Night"]);
    await person.selectOptions(field("Order of the pieces"), "by name");
    expect(shown()).toEqual(["Delete Evening 9", "Delete Evening 10", "Delete Night"]);
    await person.type(field("Find a piece by its name"), "EVEN");
    expect(shown()).toEqual(["Delete Evening 9", "Delete Evening 10"]);
    await person.type(field("Find a piece by its name"), "ing 11");
    expect(screen.getByText(/No piece is called so/)).toBeVisible();
  });
  test("shows of each its key, tempo and when it was changed, as one writes dates", async () => {
    reply("GET /pieces/p1/card", { key: "F♯ dorian", tempo: 104, meter: "4/4", clips: 1, first: null });
    await home();
    expect(await screen.findByText("F♯ dorian · 104 bpm · 4/4 · 1 clip")).toBeVisible();
    const date = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });
    expect(screen.getByText(`changed ${date.format(new Date("2026-01-02T03:04:05Z"))}`)).toBeVisible();
  });
  test("says so where there are none", async () => {
    await home([]);
    expect(await screen.findByText(/None yet/)).toBeVisible();
  });
  test("says what is wrong where they cannot be read", async () => {
    await home(500);
    expect(await screen.findByRole("alert", {}, { timeout: 9000 })).toHaveTextContent("refused");
  }, 10_000);
  test("deletes one, and asks again what is left", async () => {
    const person = await home();
    await screen.findByText("Evening");
    reply("GET /pieces", []);
    reply("GET /deleted/pieces", [{ id: "p1", name: "Evening", deleted: "2026-01-02T03:04:05Z" }]);
    reply("DELETE /pieces/p1", {});
    await person.click(button("Delete Evening"));
    expect(await screen.findByText(/None yet/)).toBeVisible();
    expect(await screen.findByText(/kept for 30 days/)).toBeVisible();
  });
  test("a new piece is made of what the form says", async () => {
    const person = await home([]);
    reply("POST /pieces", answer("keel"));
    await person.click(button("New piece"));
    const title = await screen.findByLabelText("Title");
    await person.clear(title);
    await person.type(title, "Harbour");
    await person.clear(field("Meter of the piece"));
    await person.type(field("Meter of the piece"), "7/8");
    await person.click(field("Tempo of the piece"));
    await person.keyboard("132{Tab}");
    await person.click(button("Begin"));
    await waitFor(() =>
      expect(asked.find((a) => a.method === "POST")?.body).toEqual({
        title: "Harbour",
        key: { tonic: "D", scale: "dorian" },
        tempo: 132,
        meter: "7/8",
        clip: "First clip",
      }),
    );
  });
});

test("the keys of the lane that is worked on are listed, each with what it does there", async () => {
  open("keel", "low");
  dialog("keys");
  show(<KeyList />);
  const list = await screen.findByRole("dialog");
  for (const word of ["Undo", "Play or stop", "Take as the motif"])
    expect(within(list).getAllByText(new RegExp(word)).length).toBeGreaterThan(0);
  expect(within(list).queryByText("New phrase")).toBeNull(); // its key is another's on a line
  expect(list.querySelectorAll("dt").length).toBeGreaterThan(20);
});

describe.each(Object.keys(laneKinds) as Lane["kind"][])("the keys of %s lanes", (kind) => {
  const listed = () => {
    const { steps, ...rest } = clipOf(useApp.getState())!.lanes[0] as Extract<Lane, { kind: "line" }>;
    const places = kind === "notes" ? { notes: [{ number: 1 }] } : kind === "layer" ? {} : { steps };
    return listedKeys({ ...rest, ...places, kind } as unknown as Lane);
  };
  test("no two have one key", () => {
    open("keel", "low");
    const shown = listed().map((k) => k.shown);
    expect(shown.toSorted()).toEqual([...new Set(shown)].toSorted());
  });
  test("those of a field are there where the kind has it", () => {
    open("keel", "low");
    const has = (does: string) => listed().some((k) => k.does.startsWith(does));
    const fields = Object.hasOwn(facts.step, kind) ? Object.keys(facts.step[kind]) : [];
    for (const [does, field] of [
      ["Ratchet", "ratchet"],
      ["Skip", "skip"],
      ["Tie", "tie"],
      ["Glide into", "glide"],
    ] as const)
      expect([does, has(does)]).toEqual([does, fields.includes(field)]);
  });
});

describe("starters", () => {
  const choose = async () => {
    open("keel", "low");
    reply("GET /pieces/lantern-regatta/clips/keel/starters?kind=line", answer("lines"));
    reply("GET /pieces/lantern-regatta/clips/keel/starters?kind=phrase", answer("starters"));
    reply("GET /deleted/starters", []);
    const { person } = show(<Chooser />);
    await screen.findByRole("group", { name: "Slow tide" });
    return person;
  };
  test("open on the kind of the lane that one is in, and say what they are for", async () => {
    await choose();
    expect(screen.getByRole("tab", { selected: true })).toHaveTextContent("Line");
    expect(screen.getByRole("group", { name: "Steady oars" })).toHaveTextContent("a driving bass in eighths");
  });
  test("one takes the place of what is in the lane, or becomes another", async () => {
    const person = await choose();
    await person.click(button("Put Steady oars into Low"));
    await waitFor(() => expect(sent()).toMatchObject([{ op: "lane.start", clip: "keel", lane: "low" }]));
    await person.click(button("Add Slow tide"));
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()[1]).toMatchObject({ op: "lane.start", clip: "keel", first: true });
    expect(sent()[1]).not.toHaveProperty("lane");
  });
  test("are tried in the place of the lane, by arrow keys, part by part, and kept with Enter", async () => {
    const person = await choose();
    await person.click(button("Try Slow tide"));
    await waitFor(() => expect(drafts()).toMatchObject([[{ lane: "low", part: "", sound: false }]]));
    await person.keyboard("{ArrowRight}");
    const second = document.querySelectorAll("[role=group][aria-label]")[1]!.getAttribute("aria-label")!;
    await waitFor(() => expect(useApp.getState().tried?.name).toBe(second));
    await person.click(screen.getByRole("radio", { name: "Rhythm" }));
    await waitFor(() => expect(drafts().at(-1)).toMatchObject([{ lane: "low", part: "rhythm" }]));
    expect(sent()).toEqual([]);
    await person.click(button(`Keep ${second}`));
    await waitFor(() => expect(sent()).toEqual(drafts().at(-1)));
    expect(useApp.getState().panel).toBeNull();
  });
  test("that are only tried leave all as it was", async () => {
    const person = await choose();
    await person.click(button("Try Slow tide"));
    await waitFor(() => expect(useApp.getState().tried).not.toBeNull());
    await person.click(button("Cancel"));
    cleanup();
    expect(useApp.getState().tried).toBeNull();
    expect(sent()).toEqual([]);
  });
  test("that cannot sound here say why", async () => {
    const person = await choose();
    await person.click(screen.getByRole("tab", { name: "Phrase" }));
    const first = await screen.findByRole("group", { name: "Eight up" });
    expect(first).toHaveTextContent("there is no chord in the clip that it could walk");
  });
});
