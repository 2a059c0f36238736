// @vitest-environment jsdom
import { beforeEach, expect, test } from "vitest";
import type { Op } from "../src/api/gen/schema.gen";
import type { State } from "../src/api/gen/server.gen";
import type { Vocabulary } from "../src/api/gen/view.gen";
import { yOf } from "../src/canvas/drawing/geometry";
import type { Draft, Gesture, Ground } from "../src/canvas/gestures/gesture";
import { freeNotes } from "../src/api/free";
import { notes, type NotesLane, ready } from "../src/lanes/notes/notes";
import { useHands } from "../src/lanes/notes/state";
import { clipOf, laneViewOf, useApp } from "../src/state/store";
import type { Edit } from "../src/state/app";
import osier from "./answers/osier.json";
import words from "./answers/words.json";

let made: Op[] = [];
let ground: Ground<NotesLane>;

beforeEach(async () => {
  await ready();
  made = [];
  useApp.setState({ words: words as unknown as Vocabulary });
  useApp.getState().take(structuredClone(osier) as unknown as State);
  useApp.getState().goTo("heron");
  useApp.getState().select([], undefined);
  useApp.setState({
    edit: (edit: Edit) => {
      made.push(...(typeof edit === "function" ? edit(useApp.getState()) : edit));
      return Promise.resolve(true);
    },
  });
  useHands.setState({ snap: "1/16", motif: null });
  const lane = clipOf(useApp.getState())!.lanes.find((l) => l.id === "heron") as NotesLane;
  const view = laneViewOf(useApp.getState())!;
  const band = notes.band(lane, view, { open: true, height: 400, lowest: null });
  ground = { clip: "osier", lane, view, band, tick: (x) => x, slack: 20, sound: () => {} };
});

type Held = { shift?: boolean; alt?: boolean };

/** Presses at the first place, moves over the others and lets go; gives what was shown last. */
function drag(held: Held, ...places: [number, number][]): Draft | undefined {
  const point = ([x, y]: [number, number]) => ({ x, y, shift: !!held.shift, alt: !!held.alt });
  const gesture: Gesture | null = notes.begin(ground, point(places[0]!));
  let last: Draft | undefined;
  for (const place of places.slice(1)) last = gesture?.move(point(place)) ?? undefined;
  gesture?.end();
  return last;
}

const row = (pitch: number) => yOf(ground.band, pitch);
const first = () => freeNotes(ground.lane)![0]!;
const pitchOf = (index: number) => ground.view.free!.rows[index]!;

test("a click on a free place puts a note on the grid there, in the key", () => {
  drag({}, [6890, row(pitchOf(0))]);
  expect(made).toEqual([
    {
      op: "notes.add",
      clip: "osier",
      lane: "heron",
      ladder: true,
      notes: [{ at: 6720, length: 240, degree: first().degree, octave: first().octave, alter: 0 }],
    },
  ]);
});

test("without a grid it is put to the tick", () => {
  useHands.setState({ snap: "" });
  drag({}, [6891, row(pitchOf(0))]);
  expect(made).toMatchObject([{ op: "notes.add", notes: [{ at: 6891 }] }]);
});

test("a note is dragged by the grid and by rows, with all that are selected", () => {
  useApp.getState().select([0, 1], 0);
  const rows = ground.view.ladder;
  const up = rows[rows.findIndex((r) => r.pitch === pitchOf(0)) + 2]!;
  const shown = drag({}, [100, row(pitchOf(0))], [600, row(up.pitch)]);
  expect(made).toEqual([
    { op: "notes.move", clip: "osier", lane: "heron", notes: [1, 2], later: 480, by: 2, unit: "degree" },
  ]);
  expect(shown?.pods?.hidden).toEqual(new Set([0, 1]));
  expect(shown?.pods?.shown.map((n) => n.at)).toEqual([480, 720]);
});

test("let go where it was taken, nothing is edited", () => {
  drag({}, [100, row(pitchOf(0))], [101, row(pitchOf(0))]);
  expect(made).toEqual([]);
});

test("an end that is dragged lengthens", () => {
  drag({}, [ground.view.notes[0]!.length - 4, row(pitchOf(0))], [900, row(pitchOf(0))]);
  expect(made).toMatchObject([{ op: "notes.write", notes: [{ number: first().number, at: 0, length: 960 }] }]);
});

test("Shift frames notes, and a click with it adds one or takes it out", () => {
  drag({ shift: true }, [0, row(pitchOf(0)) + 4], [500, row(pitchOf(0)) - 4]);
  expect(useApp.getState().selection).toEqual([0]);
  drag({ shift: true }, [300, row(pitchOf(1))]);
  expect(useApp.getState().selection).toEqual([0, 1]);
  drag({ shift: true }, [300, row(pitchOf(1))]);
  expect(useApp.getState().selection).toEqual([0]);
  expect(made).toEqual([]);
});

test("Shift, at the outer end of what is selected, stretches it", () => {
  useApp.getState().select([0, 1], 0);
  const end = ground.view.notes[1]!.at + ground.view.notes[1]!.length;
  const shown = drag({ shift: true }, [end - 4, row(pitchOf(1))], [end + 476, row(pitchOf(1))]);
  expect(made).toEqual([{ op: "notes.stretch", clip: "osier", lane: "heron", notes: [1, 2], start: 0, end: 960 }]);
  expect(shown?.pods?.shown.map((n) => [n.at, n.length])).toEqual([
    [0, 480],
    [480, 480],
  ]);
});

test("Alt paints along the stroke, and stamps where a motif is held", () => {
  const stroke: [number, number][] = [
    [6800, row(pitchOf(0))],
    [7300, row(pitchOf(1))],
  ];
  drag({ alt: true }, ...stroke);
  expect(made).toMatchObject([{ op: "notes.paint", snap: "1/16", stroke: [{ at: 6800 }, { at: 7300 }] }]);
  made = [];
  useHands.setState({ motif: { lane: "heron", notes: freeNotes(ground.lane)!.slice(0, 2), steps: [] } });
  drag({ alt: true }, ...stroke);
  expect(made).toMatchObject([{ op: "notes.stamp", motif: [{ at: 0 }, { at: 240 }] }]);
  expect(JSON.stringify(made)).not.toContain("number");
});

test("many notes are shown where they stood, moved", () => {
  const many = freeNotes(ground.lane)!.length;
  useApp.getState().select(
    Array.from({ length: many }, (_, i) => i),
    0,
  );
  const few = drag({}, [100, row(pitchOf(0))], [600, row(pitchOf(0))]);
  expect(few?.pods?.moved).toBeUndefined();
  const twelve = Array.from({ length: 12 }, (_, k) => freeNotes(ground.lane)!.map((n) => ({ ...n, at: n.at + k })));
  ground = {
    ...ground,
    lane: { ...ground.lane, notes: twelve.flat() } as NotesLane,
    view: { ...ground.view, free: { ...ground.view.free!, rows: twelve.flatMap(() => ground.view.free!.rows) } },
  };
  useApp.getState().select(
    Array.from({ length: 12 * many }, (_, i) => i),
    0,
  );
  const shown = drag({}, [100, row(pitchOf(0))], [600, row(pitchOf(0))]);
  expect(shown?.pods?.moved).toEqual({ later: 480, up: 0 });
  expect(shown?.pods?.shown[0]?.at).toBe(0);
});
