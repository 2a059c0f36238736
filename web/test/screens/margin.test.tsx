// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, test } from "vitest";
import type { Lane } from "../../src/api/gen/schema.gen";
import { Margin } from "../../src/margin/Margin";
import { Luck } from "../../src/margin/motion/Luck";
import { Modulators } from "../../src/margin/motion/Modulators";
import { Review } from "../../src/margin/Review";
import { RangeFields } from "../../src/margin/motion/RangeFields";
import { ShareFields } from "../../src/margin/motion/ShareFields";
import { GrooveFields } from "../../src/transport/Feel";
import { useSheet } from "../../src/state/sheet";
import { clipOf, useApp } from "../../src/state/store";
import { asked, button, field, open, reply, sent, show } from "./screen";

const margin = () => {
  reply("GET /pieces/lantern-regatta/clips", { text: "Step 1 sounds so.", reasons: [] });
  return show(<Margin />).person;
};
const select = (...places: number[]) => useApp.getState().select(places, places[0]);
/** What was asked of the steps that were selected. */
const patches = () => sent().map((op) => (op as { patch?: unknown }).patch);

describe("the margin", () => {
  test("says what to do while nothing is selected", () => {
    open("keel", "low");
    margin();
    expect(screen.getByText(/Nothing is selected in Low/)).toBeVisible();
  });
  test("tells of the step that is selected, and why it sounds so", async () => {
    open("keel", "low");
    select(0);
    margin();
    expect(await screen.findByText("Step 1")).toBeVisible();
    expect(await screen.findByText("Step 1 sounds so.")).toBeVisible();
    expect(asked.at(-1)!.path).toContain("/why?lane=low&note=0");
  });
  test("tells of how many steps are selected", async () => {
    open("keel", "low");
    select(0, 2, 4);
    margin();
    expect(await screen.findByText("3 steps")).toBeVisible();
  });
  test("a lane that acts on others has no sound of its own to show", async () => {
    open("keel", "low");
    margin();
    expect(screen.getAllByRole("tab").map((t) => t.textContent)).toEqual(["Steps", "Motion", "Sound of Low"]);
    const clip = clipOf(useApp.getState())!;
    const lane = { ...clip.lanes[0], kind: "control", to: "reed", target: "wheel", follows: null } as unknown as Lane;
    useApp.setState((s) => ({
      piece: {
        ...s.piece!,
        clips: s.piece!.clips.map((c) => (c.id === "keel" ? { ...clip, lanes: [lane, clip.lanes[1]!] } : c)),
      },
    }));
    await waitFor(() => expect(screen.queryByRole("tab", { name: /Sound/ })).toBeNull());
  });
  test("shows the motion of the lane where that is chosen", async () => {
    open("cutwater", "hull");
    const person = margin();
    await person.click(screen.getByRole("tab", { name: "Motion" }));
    expect(await screen.findByRole("group", { name: "Modulator 1, on gate" })).toBeVisible();
  });
});

describe("the review", () => {
  test("counts its findings and offers what mends them", async () => {
    open("remarked", "low");
    const person = margin();
    const review = screen.getByRole("heading", { name: /Review/ }).parentElement!;
    expect(within(review).getAllByRole("listitem")).toHaveLength(2);
    await person.click(button("Let it play in every round"));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()).toEqual(useApp.getState().view!.findings[0]!.mend!.ops);
  });
  test("leads to what it found", async () => {
    open("remarked", "low");
    const person = margin();
    const [first] = useApp.getState().view!.findings;
    await person.click(screen.getAllByRole("button", { name: "Show the step" })[0]!);
    expect(useApp.getState()).toMatchObject({ lane: first!.lane, selection: [first!.step - 1] });
    expect(useSheet.getState().looks[first!.lane]?.open).toBe(true);
  });
  test("says so where there is nothing to remark", () => {
    open("basin", "ground");
    margin();
    expect(screen.getByText(/Nothing to remark/)).toBeVisible();
  });
  test("tells how far lanes keep to the chords", () => {
    open("basin", "ground");
    margin();
    expect(
      within(screen.getByRole("table", { name: "Share of chord tones" })).getAllByRole("row").length,
    ).toBeGreaterThan(1);
  });
});

describe("the fields of selected steps", () => {
  const steps = async (...places: number[]) => {
    open("keel", "low");
    select(...places);
    const person = margin();
    await screen.findByLabelText(/^Degree/);
    return person;
  };
  test.each([
    [/^Velocity/, "99", { velocity: 99 }],
    [/^Gate/, "150", { gate: 150 }],
    [/^Chance/, "40", { chance: 40 }],
    [/^Ratchet/, "3", { ratchet: 3 }],
  ])("%s is sent for the steps alone", async (name, typed, patch) => {
    const person = await steps(0, 2);
    await person.click(field(name));
    await person.keyboard(`${typed}{Enter}`);
    await waitFor(() => expect(sent()).toEqual([{ op: "steps.set", clip: "keel", lane: "low", steps: [1, 3], patch }]));
  });
  test.each([
    ["On", "on"],
    ["Tie", "tie"],
    ["Skip", "skip"],
  ])("%s is switched", async (name, key) => {
    const person = await steps(1);
    const was = button(name).getAttribute("aria-pressed") === "true";
    await person.click(button(name));
    await waitFor(() => expect(patches()).toEqual([{ [key]: !was }]));
  });
  test("rounds that are left out leave at least one", async () => {
    const person = await steps(0);
    await person.click(field("Of so many rounds"));
    await person.keyboard("3{Enter}");
    await waitFor(() => expect(patches()).toEqual([{ rounds: { of: 3, on: [1] } }]));
  });
  test("a value out of range is sent nowhere", async () => {
    const person = await steps(0);
    await person.click(field(/^Velocity/));
    await person.keyboard("128{Enter}");
    expect(field(/^Velocity/)).toHaveAttribute("aria-invalid", "true");
    expect(sent()).toEqual([]);
  });
});

describe("modulators", () => {
  const hull = () => {
    const { lane, view } = open("cutwater", "hull");
    const { person } = show(<Modulators lane={lane} view={view} />);
    return { lane, view, person };
  };
  const list = () => (patches()[0] as { modulators: Record<string, unknown>[] }).modulators;
  test("one is added as gently as the field says", async () => {
    const { lane, view, person } = hull();
    await person.selectOptions(field("Add a modulator"), "chance");
    await waitFor(() => expect(list()).toHaveLength(lane.modulators.length + 1));
    const move = view.moves.find((m) => m.name === "chance")!;
    expect(list().at(-1)).toEqual({
      on: "chance",
      shape: "sine",
      every: "2bar",
      phase: 0,
      from: move.from,
      to: move.to,
      way: "set",
      values: [],
      off: false,
    });
  });
  test("one is switched off, and stays as it is set", async () => {
    const { lane, person } = hull();
    await person.click(button("Modulator 1 is off"));
    await waitFor(() => expect(list()).toEqual([{ ...lane.modulators[0], off: true }, lane.modulators[1]]));
  });
  test("one is removed, the others stay", async () => {
    const { lane, person } = hull();
    await person.click(button("Remove modulator 1"));
    await waitFor(() => expect(list()).toEqual([lane.modulators[1]]));
  });
  test("another field brings its own ends", async () => {
    const { view, person } = hull();
    await person.selectOptions(field("Field of modulator 1"), "velocity");
    const move = view.moves.find((m) => m.name === "velocity")!;
    await waitFor(() => expect(list()[0]).toMatchObject({ on: "velocity", way: "set", from: move.from, to: move.to }));
  });
  test("levels begin with some", async () => {
    const { person } = hull();
    await person.selectOptions(field("Shape of modulator 1"), "levels");
    await waitFor(() => expect(list()[0]).toMatchObject({ shape: "steps", values: [0, 100, 50, 75] }));
  });
  test("one that adds goes as far up as down", async () => {
    const { person } = hull();
    await person.selectOptions(field("Way of modulator 1"), "adds");
    await waitFor(() => expect(list()[0]!.way).toBe("add"));
    expect(list()[0]!.from).toBe(-(list()[0]!.to as number));
  });
  test("one is written into the steps", async () => {
    const { person } = hull();
    await person.click(screen.getAllByRole("button", { name: "Write it into the steps" })[1]!);
    await waitFor(() =>
      expect(sent()).toEqual([{ op: "lane.writeModulator", clip: "cutwater", lane: "hull", modulator: 2 }]),
    );
  });
});

describe("luck", () => {
  const hull = (odds: object[] = []) => {
    const { lane, view } = open("cutwater", "hull");
    const all = { degrees: null, octave: null, velocity: null, gate: null, ratchet: null, rest: false };
    const own = { ...lane, odds: odds.map((o) => ({ ...all, ...o })) } as Lane;
    useApp.setState((s) => {
      const clip = clipOf(s)!;
      const lanes = clip.lanes.map((l) => (l.id === "hull" ? own : l));
      return { piece: { ...s.piece!, clips: s.piece!.clips.map((c) => (c.id === clip.id ? { ...clip, lanes } : c)) } };
    });
    return show(
      <Luck lane={own} view={{ ...view, chancy: odds.length > 0, odds: odds.map((_, i) => `alternative ${i}`) }} />,
    ).person;
  };
  const odds = () => (patches()[0] as { odds: Record<string, unknown>[] }).odds;
  test.each([
    ["Two speeds, and silence", 3],
    ["Scattered octaves", 3],
    ["Soft and short", 2],
  ])("begins from a set: %s", async (name, count) => {
    const person = hull();
    await person.click(button(name));
    await waitFor(() => expect(odds()).toHaveLength(count));
    expect(odds().reduce((sum, o) => sum + (o.weight as number), 0)).toBe(100);
  });
  test("shares are of all weights", () => {
    hull([{ weight: 60 }, { weight: 20 }]);
    expect(button("Alternative 1: alternative 0, 75 percent")).toBeVisible();
    expect(button("Alternative 2: alternative 1, 25 percent")).toBeVisible();
  });
  test("a least that is above the most takes it along", async () => {
    const person = hull([{ weight: 60, velocity: [-20, 10] }]);
    await person.click(button(/Alternative 1:/));
    await person.click(field("Least velocity of alternative 1"));
    await person.keyboard("30{Enter}");
    await waitFor(() => expect(odds()[0]!.velocity).toBe(30));
  });
  test("what rests does nothing else", async () => {
    const person = hull([{ weight: 60, rest: true }]);
    await person.click(button(/Alternative 1:/));
    for (const name of ["Ratchet", "Octave", "Velocity"]) expect(button(name)).toBeDisabled();
  });
  test("rounds that are named are held together", async () => {
    const person = hull([{ weight: 60 }]);
    await person.type(field("Rounds to hold"), "1, 3 4{Tab}");
    await person.click(button("Hold these"));
    await waitFor(() =>
      expect(sent()).toEqual([{ op: "lane.hold", clip: "cutwater", lane: "hull", rounds: [1, 3, 4] }]),
    );
  });
  test("without any there is nothing to hold", () => {
    hull();
    expect(button("Hold this")).toBeDisabled();
  });
});

describe("range and share", () => {
  test("a range begins where the notes lie", async () => {
    const { lane, view } = open("cutwater", "hull");
    const { person } = show(<RangeFields lane={{ ...lane, range: null } as Lane} view={view} />);
    await person.click(button("All pitches"));
    await waitFor(() => expect(patches()).toEqual([{ range: { ...view.octaves, outside: "fold" } }]));
  });
  test.each([
    [[], "Every note lies within."],
    [[30], "1 pitch lies outside."],
    [[30, 31], "2 pitches lie outside."],
  ])("what lies outside is told: %j", (outside, text) => {
    const { lane, view } = open("cutwater", "hull");
    const own = { ...lane, range: { low: 36, high: 59, outside: "fold" } } as Lane;
    show(<RangeFields lane={own} view={{ ...view, outside }} />);
    expect(screen.getByTestId("outside")).toHaveTextContent(text);
  });
  test("a range is taken away", async () => {
    const { lane, view } = open("cutwater", "hull");
    const own = { ...lane, range: { low: 36, high: 59, outside: "fold" } } as Lane;
    const { person } = show(<RangeFields lane={own} view={view} />);
    await person.click(button("Limited"));
    await waitFor(() => expect(patches()).toEqual([{ range: null }]));
  });
  test("a share of the timing leaves that of the velocity", async () => {
    const { lane, view } = open("cutwater", "hull");
    const { person } = show(<ShareFields lane={lane} view={view} />);
    await person.click(field("Share of timing of Hull"));
    await person.keyboard("40{Enter}");
    await waitFor(() => expect(patches()).toEqual([{ share: { ...view.share, timing: 40 } }]));
  });
  test.each([
    ["Take its groove", "groove.take"],
    ["Print the groove", "groove.print"],
  ])("%s", async (name, op) => {
    const { lane, view } = open("cutwater", "hull");
    const { person } = show(<ShareFields lane={lane} view={view} />);
    await person.click(button(name));
    await waitFor(() => expect(sent()).toEqual([{ op, clip: "cutwater", lane: "hull" }]));
  });
});

describe("what the review is quiet about", () => {
  test("is chosen for a lane or the piece, and can be said again", async () => {
    open("keel", "low");
    const finding = { rule: "seam", lane: "low", step: 1, message: "Low ends on D.", mend: null };
    const { person } = show(<Review findings={[finding]} agreement={null} />);
    await person.click(await screen.findByRole("button", { name: "Be quiet about it: How the loop leads back" }));
    await person.click(await screen.findByRole("menuitem", { name: "In Low" }));
    await waitFor(() =>
      expect(sent().at(-1)).toMatchObject({ op: "lane.set", lane: "low", patch: { quiet: ["seam"] } }),
    );
    useApp.setState((s) => ({ piece: { ...s.piece!, quiet: ["clash"] } }));
    await person.click(await screen.findByText("Quiet about one thing"));
    expect(screen.getByText(/Clashes with the chord in the whole piece/)).toBeVisible();
    await person.click(button("Say it again"));
    await waitFor(() => expect(sent().at(-1)).toEqual({ op: "piece.set", patch: { quiet: [] } }));
  });
});

describe("the groove", () => {
  test("lets lanes stay in straight time while the others go along", async () => {
    open("keel", "low");
    const { person } = show(<GrooveFields />);
    const lanes = screen.getByRole("group", { name: "Lanes that go along with the groove in time" });
    const [first] = within(lanes).getAllByRole("checkbox");
    const was = useApp.getState().view!.lanes[0]!.share;
    expect(first).toBeChecked();
    await person.click(first!);
    await waitFor(() => expect(patches().at(-1)).toEqual({ share: { ...was, timing: 0 } }));
  });
});
