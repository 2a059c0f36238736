// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, test } from "vitest";
import type { Lane } from "../../src/api/gen/schema.gen";
import { heardOf, instrumentOf, newestOf } from "../../src/app/heard";
import { ClipFields } from "../../src/clips/ClipFields";
import { ClipList } from "../../src/clips/ClipList";
import { Fills } from "../../src/sheet/Fills";
import { HarmonyChooser } from "../../src/sheet/harmony/HarmonyChooser";
import { LaneHeader } from "../../src/sheet/LaneHeader";
import { useSheet } from "../../src/state/sheet";
import { clipOf, useApp } from "../../src/state/store";
import { BeatFields, GrooveFields } from "../../src/transport/Feel";
import { TopBar } from "../../src/transport/TopBar";
import { answer, asked, button, clipNow, field, open, reply, sent, show } from "./screen";

describe("the list of clips", () => {
  const list = async (clip = "keel") => {
    open(clip);
    reply("GET /pieces/lantern-regatta/thumbs", answer("thumbs"));
    reply("GET /pieces/lantern-regatta?clip=basin", answer("basin"));
    const { person } = show(
      <>
        <ClipList />
        <ClipFields />
      </>,
    );
    await screen.findByRole("tab", { name: /Basin/ });
    return person;
  };
  test("shows every clip with its length, the open one chosen", async () => {
    await list();
    expect(screen.getAllByRole("tab")).toHaveLength(19);
    expect(screen.getByRole("tab", { selected: true })).toHaveTextContent("Keel2 bars");
  });
  test("opens the clip that is clicked", async () => {
    const person = await list();
    await person.click(screen.getByRole("tab", { name: /Basin/ }));
    await waitFor(() => expect(useApp.getState().clip).toBe("basin"));
    expect(asked.some((a) => a.path.endsWith("?clip=basin&also=keel"))).toBe(true);
  });
  test.each([
    ["Duplicate the clip", { op: "clip.copy", clip: "keel" }],
    ["Move down", { op: "clip.move", clip: "keel", to: 2 }],
    ["Remove the clip", { op: "clip.remove", clip: "keel" }],
  ])("%s", async (name, op) => {
    const person = await list();
    await person.click(button("More ▸"));
    await person.click(await screen.findByRole("menuitem", { name }));
    await waitFor(() => expect(sent()).toEqual([op]));
  });
  test("the first clip cannot be moved up", async () => {
    const person = await list();
    await person.click(button("More ▸"));
    expect(await screen.findByRole("menuitem", { name: "Move up" })).toBeDisabled();
  });
  test("its end becomes so many bars, or where lanes meet", async () => {
    const person = await list();
    await person.selectOptions(field("Where the clip ends"), "after a cycle");
    await waitFor(() => expect(sent()).toEqual([{ op: "clip.set", clip: "keel", patch: { until: "cycle" } }]));
    await person.selectOptions(field("Where the clip ends"), "at the bar");
    await waitFor(() => expect(sent()).toHaveLength(2));
  });
  test("a name of blanks is no name", async () => {
    const person = await list();
    await person.clear(field("Name of the clip"));
    await person.type(field("Name of the clip"), "  {Enter}");
    expect(sent()).toEqual([]);
    expect(field("Name of the clip")).toHaveValue("Keel");
  });
  test("another clip's document is not known, but its name is", async () => {
    await list();
    const other = useApp.getState().piece!.clips.find((c) => c.id === "basin")!;
    expect(other).toEqual({ id: "basin", name: "Basin", chords: true, brief: true });
  });
});

describe("a lane's header", () => {
  const header = (part: Partial<Lane> = {}) => {
    const { lane, view } = open("keel", "low");
    useSheet.getState().look("low", { open: true, held: true });
    return show(<LaneHeader lane={{ ...lane, ...part } as Lane} view={view} index={0} height={400} />).person;
  };
  const last = () => sent().at(-1);
  test.each([
    ["Rate of Low", "1/8T", { rate: "1/8T" }],
    ["Direction of Low", "pendulum", { direction: "pendulum" }],
  ])("%s", async (name, word, patch) => {
    const person = header();
    await person.selectOptions(field(name), word);
    await waitFor(() => expect(last()).toEqual({ op: "lane.set", clip: "keel", lane: "low", patch }));
  });
  test("the number of steps is a size, not a field", async () => {
    const person = header();
    await person.click(field("Steps of Low"));
    await person.keyboard("24{Enter}");
    await waitFor(() => expect(last()).toEqual({ op: "lane.resize", clip: "keel", lane: "low", count: 24 }));
  });
  test("the window ends within the steps", async () => {
    const person = header({ window: { start: 30, count: 3 } } as Partial<Lane>);
    await person.click(field("Window length of Low"));
    await person.keyboard("4");
    expect(screen.getByRole("alert")).toHaveTextContent("Allowed: 1 to 3.");
  });
  test.each([
    ["Mute Low", "mute"],
    ["Solo Low", "solo"],
  ])("%s is pressed when it is on", async (name, key) => {
    const person = header();
    expect(button(name)).toHaveAttribute("aria-pressed", "false");
    await person.click(button(name));
    await waitFor(() => expect(last()).toMatchObject({ op: "lane.set", patch: { [key]: true } }));
  });
  test("a double click renames, and Enter ends that", async () => {
    const person = header();
    await person.dblClick(button("Low"));
    await person.clear(field("Name of Low"));
    await person.keyboard("Keelson{Enter}");
    await waitFor(() => expect(last()).toMatchObject({ patch: { name: "Keelson" } }));
    expect(screen.queryByLabelText("Name of Low")).toBeNull();
  });
  test.each([
    ["Double the length with its content", "lane.double", {}],
    ["Duplicate the lane", "lane.copy", {}],
    ["Move down", "lane.move", { to: 2 }],
    ["Remove the lane", "lane.remove", {}],
  ])("%s", async (name, op, more) => {
    const person = header();
    await person.click(button("More for Low"));
    await person.click(await screen.findByRole("menuitem", { name }));
    await waitFor(() => expect(last()).toEqual({ op, clip: "keel", lane: "low", ...more }));
  });
  test("a lane is closed and opened again", async () => {
    const person = header();
    await person.click(button("Close Low"));
    expect(useSheet.getState().looks.low?.open).toBe(false);
  });
});

describe("fills", () => {
  const fills = (selection: number[] = []) => {
    const { lane, view } = open("keel", "low");
    useApp.getState().select(selection);
    return show(<Fills lane={lane} view={view} />).person;
  };
  const all = Array.from({ length: 32 }, (_, i) => i + 1);
  test.each([
    ["Set every", { op: "fill.every", every: 2 }],
    ["2 of 3", { op: "fill.share", take: 2, of: 3 }],
    ["Double", { op: "fill.double" }],
    ["Take its rhythm", { op: "fill.from", from: "reed", loudness: false, lengths: false }],
    ["Its rests", { op: "fill.from", from: "reed", rests: true }],
  ])("%s, on all steps", async (name, op) => {
    const person = fills();
    expect(screen.getByText("On all 32 steps")).toBeVisible();
    await person.click(button(name));
    await waitFor(() => expect(sent()).toEqual([{ ...op, clip: "keel", lane: "low", steps: all }]));
  });
  test("a rhythm is taken with its loudness and lengths, if asked", async () => {
    const person = fills();
    await person.click(screen.getByRole("checkbox", { name: "with its loudness" }));
    await person.click(screen.getByRole("checkbox", { name: "with its lengths" }));
    await person.click(button("Take its rhythm"));
    const taken = { op: "fill.from", from: "reed", loudness: true, lengths: true };
    await waitFor(() => expect(sent()).toEqual([{ ...taken, clip: "keel", lane: "low", steps: all }]));
  });
});

describe("where the chords come from", () => {
  const options = () => [...(field("Where the chords come from") as HTMLSelectElement).options].map((o) => o.text);
  test("other clips offer theirs by name, though their documents are not here", () => {
    open("keel");
    show(<HarmonyChooser clip={clipNow()} />);
    expect(options()).toContain("those of Basin");
    expect(options()[0]).toBe("none");
  });
  test("a clip with chords has its first", () => {
    open("basin");
    show(<HarmonyChooser clip={clipNow()} />);
    expect(options()[0]).toBe("Swell (the first)");
  });
  test("one is taken, and let go", async () => {
    open("keel");
    const { person } = show(<HarmonyChooser clip={clipNow()} />);
    await person.selectOptions(field("Where the chords come from"), "those of Basin");
    await waitFor(() => expect(sent()).toEqual([{ op: "clip.harmony", clip: "keel", harmony: { clip: "basin" } }]));
  });
  test("a bass is made only where there are chords", () => {
    open("keel");
    show(<HarmonyChooser clip={clipNow()} />);
    expect(button("Bass from the chords")).toBeDisabled();
  });
});

describe("the bar over everything", () => {
  test.each([
    ["Tempo", "96", { tempo: 96 }],
    ["Meter", "7/8", { meter: "7/8" }],
    ["Title of the piece", "Evening", { title: "Evening" }],
  ])("%s", async (name, typed, patch) => {
    open("keel");
    const { person } = show(<TopBar />);
    await person.clear(field(name));
    await person.type(field(name), `${typed}{Enter}`);
    await waitFor(() => expect(sent()).toEqual([{ op: "piece.set", patch }]));
  });
  test("undo and redo say what they would do, and are off where there is nothing", async () => {
    open("keel");
    useApp.getState().set({ undo: "transpose", redo: "" });
    const { person } = show(<TopBar />);
    expect(button("Undo")).toHaveAttribute("title", "Undo: transpose");
    expect(button("Redo")).toBeDisabled();
    await person.click(button("Undo"));
    await waitFor(() => expect(asked.some((a) => a.path.endsWith("/undo"))).toBe(true));
  });
  test("what is not saved is said", () => {
    open("keel");
    const { again } = show(<TopBar />);
    const saved = screen.getByRole("status", { name: "Saving" });
    expect(saved).toHaveTextContent("Saved");
    useApp.getState().set({ saving: 1 });
    again(<TopBar />);
    expect(saved).toHaveTextContent("Saving");
  });
  test.each([
    [/^Key:/, "key"],
    ["Keys", "keys"],
    ["Render", "render"],
  ])("%s opens its dialog", async (name, panel) => {
    open("keel");
    const { person } = show(<TopBar />);
    await person.click(button(name));
    expect(useApp.getState().panel).toBe(panel);
  });
});

describe("groove and beat", () => {
  const last = () => (sent().at(-1) as { patch: unknown }).patch;
  test("a template is chosen and let go", async () => {
    open("keel");
    const { person } = show(<GrooveFields />);
    await person.click(button("Rolling"));
    await waitFor(() => expect(last()).toEqual({ groove: { template: "Rolling" } }));
    await person.click(button("none"));
    await waitFor(() => expect(last()).toEqual({ groove: { template: null } }));
  });
  test("a template that is pointed at is tried, and left when the hand goes", async () => {
    open("keel");
    const { person } = show(<GrooveFields />);
    await person.hover(button("Rolling"));
    await waitFor(() => expect(useApp.getState().tried?.name).toBe("Rolling"));
    await person.unhover(button("Rolling"));
    expect(useApp.getState().tried).toBeNull();
    expect(sent()).toEqual([]);
  });
  test("swing and its grid", async () => {
    open("keel");
    const { person } = show(<GrooveFields />);
    await person.click(field("Swing"));
    await person.keyboard("62{Enter}");
    await waitFor(() => expect(last()).toEqual({ groove: { swing: 62 } }));
    await person.selectOptions(field("Swing grid"), "1/8");
    await waitFor(() => expect(last()).toEqual({ groove: { grid: "1/8" } }));
  });
  test("a MIDI file that cannot be read says so", async () => {
    open("keel");
    reply("POST /groove", 400);
    const { person } = show(<GrooveFields />);
    await person.upload(
      field("Take a groove from a MIDI file"),
      new File(["no"], "broken.mid", { type: "audio/midi" }),
    );
    expect(await screen.findByRole("alert")).toHaveTextContent("broken.mid: refused");
    expect(sent()).toEqual([]);
  });
  test("clicked notes are heard or not: that is this page's, and no edit", async () => {
    open("keel");
    const { person } = show(<BeatFields />);
    await person.click(field("Sound notes when clicked"));
    expect(useApp.getState().audition).toBe(false);
    expect(sent()).toEqual([]);
  });
});

describe("what the engine is given", () => {
  test("is all that sounds, with what each lane sounds with", () => {
    open("basin");
    const heard = heardOf(useApp.getState())!;
    expect(heard.parts.map((p) => [p.id, p.instrument?.many, p.on])).toEqual([
      ["swell", true, ""],
      ["ground", false, ""],
    ]);
    expect(heard.tempo).toBe(useApp.getState().piece!.tempo);
    expect(heard.parts[0]!.notes).toBe(useApp.getState().view!.lanes[0]!.notes);
  });
  test("a lane that acts on another has no instrument, and says on which", () => {
    open("keel");
    const low = clipNow().lanes[0]!;
    const lane = { ...low, kind: "control", to: "reed", target: "wheel" } as unknown as Lane;
    expect(instrumentOf(lane)).toBeNull();
    expect(instrumentOf(low)).toMatchObject({ id: "low", many: false });
  });
  test("is made anew only when something of it has changed", () => {
    open("keel");
    const newest = newestOf(useApp.getState);
    const first = newest();
    useApp.getState().select([1, 2]);
    expect(newest()).toBe(first);
    useApp.setState((s) => ({ piece: { ...s.piece!, tempo: 90 } }));
    expect(newest()).not.toBe(first);
    expect(newest()!.tempo).toBe(90);
  });
  test("is nothing without a clip", () => {
    expect(heardOf(useApp.getState())).toBeNull();
  });
  test("leaves out a lane whose view is under way", () => {
    open("keel");
    const clip = clipOf(useApp.getState())!;
    useApp.setState((s) => ({
      piece: {
        ...s.piece!,
        clips: s.piece!.clips.map((c) => (c.id === "keel" ? { ...clip, lanes: [...clip.lanes].reverse() } : c)),
      },
    }));
    expect(heardOf(useApp.getState())!.parts).toEqual([]);
  });
});
