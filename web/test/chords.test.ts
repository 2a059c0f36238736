import { beforeEach, expect, test, vi } from "vitest";
import type { ChordMark } from "../src/api/gen/render.gen";
import type { Piece } from "../src/api/gen/piece.gen";
import type { Op } from "../src/api/gen/schema.gen";
import { yOf } from "../src/canvas/drawing/geometry";
import type { Ground } from "../src/canvas/gestures/gesture";
import { bandOf, markAt } from "../src/lanes/chords/band";
import { STRIP } from "../src/lanes/steps/strip";
import type { ChordsLane } from "../src/lanes/chords/chords";
import { chords } from "../src/lanes/chords/chords";
import { useChords } from "../src/lanes/chords/state";
import { useApp } from "../src/state/store";
import type { Edit } from "../src/state/app";
import { laneView } from "./made";

const mark = (step: number, held: number, pitches: number[]): ChordMark => ({
  at: step * 240,
  until: (step + held) * 240,
  step,
  held,
  symbol: "Am7",
  numeral: "i7",
  name: "",
  pitches,
  against: [],
  threads: [],
});

/** Four steps: a chord held for two, a rest, and another chord. */
const view = laneView(4, 1, [0, 3], {
  pitches: [[50, 53], [], [], [52, 55]],
  notes: [
    { at: 0, length: 480, pitch: 50, velocity: 100, step: 0, round: 0 },
    { at: 0, length: 480, pitch: 53, velocity: 100, step: 0, round: 0 },
    { at: 720, length: 240, pitch: 52, velocity: 100, step: 3, round: 0 },
    { at: 720, length: 240, pitch: 55, velocity: 100, step: 3, round: 0 },
  ],
  chart: {
    marks: [mark(0, 2, [50, 53]), mark(3, 1, [52, 55])],
    palette: [],
    movement: 0,
    written: 0,
    text: "i7 iv7",
  },
});
const lane = {
  id: "swell",
  kind: "chords",
  steps: [{ on: true, tie: true, chord: 1 }, { on: false }, { on: false }, { on: true, chord: 2 }],
} as unknown as ChordsLane;
const band = bandOf(lane, view, { open: true, height: 500, lowest: null });
const heard: number[][] = [];
const ground: Ground<ChordsLane> = {
  clip: "basin",
  lane,
  view,
  band,
  tick: (x) => x,
  slack: 6,
  sound: (pitches) => heard.push([...pitches]),
};
let made: Op[] = [];

beforeEach(() => {
  made = [];
  heard.length = 0;
  useChords.setState({ only: false, kind: "triad" });
  useApp.setState({
    edit: (edit: Edit) => {
      made.push(...(typeof edit === "function" ? edit(useApp.getState()) : edit));
      return Promise.resolve(true);
    },
  });
  vi.stubGlobal("window", { devicePixelRatio: 1 });
});

/** Presses at the first place, moves over the others and lets go. */
function drag(...places: [number, number][]): void {
  const point = ([x, y]: [number, number]) => ({ x, y, shift: false, alt: false });
  const gesture = chords.begin(ground, point(places[0]!));
  for (const place of places) gesture?.move(point(place));
  gesture?.end();
}

const rung = (pitch: number) => yOf(band, pitch);
const place = (pitch: number) => {
  const { degree, octave, alter } = view.ladder.find((r) => r.pitch === pitch)!;
  return { degree, octave, alter };
};

test("a chord lasts through the rests that it is tied into", () => {
  expect(markAt(view, 0)?.step).toBe(0);
  expect(markAt(view, 479)?.step).toBe(0);
  expect(markAt(view, 480)).toBeUndefined();
  expect(markAt(view, 720)?.step).toBe(3);
});

test("a click on a free rung adds a tone to the chord that is held there", () => {
  drag([300, rung(57)]);
  expect(made).toEqual([{ op: "chords.tone", clip: "basin", lane: "swell", step: 1, at: place(57), only: false }]);
  expect(heard.at(-1)).toEqual([50, 53, 57]);
});

test("where no chord is held, one begins at the step", () => {
  drag([500, rung(50)]);
  expect(made).toMatchObject([{ op: "chords.tone", step: 3 }]);
});

test("up and down, several tones are added, each once, and none that is there", () => {
  drag([100, rung(56)], [100, rung(58)], [100, rung(57)], [100, rung(53)]);
  expect(made.map((o) => "at" in o && o.at)).toEqual([place(56), place(58), place(57)]);
});

test("a click on a tone takes it away, and only here where that is wanted", () => {
  useChords.setState({ only: true });
  drag([100, rung(53)]);
  expect(made).toEqual([{ op: "chords.tone", clip: "basin", lane: "swell", step: 1, at: place(53), only: true }]);
});

test("a tone is dragged from rung to rung", () => {
  drag([100, rung(53)], [100, rung(55)], [100, rung(56)]);
  expect(made).toEqual([
    { op: "chords.drag", clip: "basin", lane: "swell", step: 1, from: place(53), to: place(56), only: false },
  ]);
});

test("a name moves its chord, and its end makes it last", () => {
  useApp.setState({ piece: { clips: [{ id: "basin", lanes: [lane] }] } as unknown as Piece });
  const y = STRIP / 2;
  drag([100, y], [350, y], [500, y]);
  expect(made).toEqual([{ op: "steps.move", clip: "basin", lane: "swell", steps: [1], by: 2, nudge: 0, copy: false }]);
  made = [];
  drag([478, y], [600, y], [725, y]);
  expect(made).toEqual([{ op: "chords.hold", clip: "basin", lane: "swell", step: 1, steps: 3 }]);
  made = [];
  drag([958, y], [5000, y]);
  expect(made).toEqual([]);
});

test("the names stand over the ladder, and its rows leave room for the rails", () => {
  expect(band.ladderTop).toBeGreaterThanOrEqual(STRIP);
  expect(band.rails.length).toBe(4);
  expect(band.ladderBottom).toBeLessThan(band.height);
  const closed = bandOf(lane, view, { open: false, height: 66, lowest: null });
  expect(closed.height).toBe(chords.closed);
  expect(closed.rows.some((r) => r.pitch === 50) && closed.rows.some((r) => r.pitch === 55)).toBe(true);
});

test("a place is told in words", () => {
  const told = { ...view, names: ["Am7", "", "", "Dm7"] };
  expect(chords.nameOf(lane, told, 0)).toBe("Am7");
  expect(chords.nameOf(lane, told, 1)).toBe("rest");
  expect(chords.speak({ ...lane, name: "Swell" }, told, 1)).toBe("Swell step 2: rest");
});
