import { describe, expect, test } from "vitest";
import {
  bendAt,
  beyond,
  knownOf,
  nearestRung,
  noteAt,
  notesBetween,
  rungAt,
  slotAt,
  slotsBetween,
  yOf,
  type Band,
} from "../src/canvas/drawing/geometry";
import { lastAt } from "../src/sorted";
import { laneView } from "./made";

const view = laneView(7, 4, [0, 3]);
const band: Band = {
  rows: view.ladder.slice(4, 16),
  rowHeight: 20,
  ladderTop: 6,
  ladderBottom: 246,
  height: 300,
  open: true,
  rails: [],
};

test("the last item at or before a value", () => {
  const items = [0, 10, 10, 20];
  const at = (value: number) => lastAt(items, (n) => n, value);
  expect([at(-1), at(0), at(9), at(10), at(15), at(99)]).toEqual([-1, 0, 0, 2, 2, 3]);
});

describe("the ladder", () => {
  test("a pitch stands in the middle of its row, one between rows between", () => {
    expect(yOf(band, 44)).toBe(236);
    expect(yOf(band, 45)).toBe(216);
    expect(yOf(band, 44.5)).toBe(226);
  });
  test("a height is its row, and beyond the ends there is none", () => {
    expect(rungAt(band, 236)?.pitch).toBe(44);
    expect(rungAt(band, 7)?.pitch).toBe(55);
    expect(rungAt(band, 247)).toBeUndefined();
    expect(nearestRung(band, -50).pitch).toBe(55);
    expect(nearestRung(band, 900).pitch).toBe(44);
  });
  test("pitches out of sight are above or below", () => {
    expect([beyond(band, 43), beyond(band, 44), beyond(band, 55), beyond(band, 56)]).toEqual([-1, 0, 0, 1]);
  });
});

describe("time", () => {
  test("a tick lies in its slot, and beyond the ends in the nearest", () => {
    expect([slotAt(view, -5), slotAt(view, 0), slotAt(view, 239), slotAt(view, 240), slotAt(view, 1e6)]).toEqual([
      0, 0, 0, 1, 27,
    ]);
    expect(slotsBetween(view, 250, 970)).toEqual([1, 4]);
  });
  test("slots that a restart cuts short are found where they are", () => {
    const cut = laneView(3, 2, [0], { slots: [0, 1, 0, 1], slotAt: [0, 240, 300, 540], rounds: [0, 0, 1, 1] });
    expect([slotAt(cut, 290), slotAt(cut, 300)]).toEqual([1, 2]);
    expect(knownOf(cut).firstRound).toBe(300);
  });
  test("only the notes between two ticks are visited", () => {
    const seen: number[] = [];
    notesBetween(view, 1000, 2000, (note) => seen.push(note.at));
    expect(seen).toEqual([1680]);
    seen.length = 0;
    notesBetween(view, 800, 1700, (note) => seen.push(note.at));
    expect(seen).toEqual([720, 1680]);
  });
  test("a long note is found long after it began", () => {
    const long = laneView(4, 1, [], {
      notes: [
        { at: 0, length: 9000, pitch: 50, velocity: 1, step: 0, round: 0 },
        { at: 10, length: 20, pitch: 51, velocity: 1, step: 1, round: 0 },
      ],
    });
    const seen: number[] = [];
    notesBetween(long, 8000, 8100, (_, i) => seen.push(i));
    expect(seen).toEqual([0]);
  });
});

describe("hit-testing", () => {
  test("a note is met on its row, along its length", () => {
    expect(noteAt(view, band, 100, yOf(band, 50), 4)).toBe(0);
    expect(noteAt(view, band, 800, yOf(band, 53), 4)).toBe(1);
    expect(noteAt(view, band, 100, yOf(band, 52), 4)).toBe(-1);
    expect(noteAt(view, band, 300, yOf(band, 50), 4)).toBe(-1);
  });
  test("a bent note is met where the wheel has taken it", () => {
    const bent = laneView(4, 1, [0], {
      bends: [
        { at: 0, value: 0 },
        { at: 90, value: 8192 / 4 },
      ],
    });
    expect(bendAt(bent, bent.notes[0]!, 89)).toBe(0);
    expect(bendAt(bent, bent.notes[0]!, 90)).toBe(3);
    expect(noteAt(bent, band, 150, yOf(band, 53), 2)).toBe(0);
    expect(noteAt(bent, band, 20, yOf(band, 53), 2)).toBe(-1);
  });
  test("a note that glides by itself goes straight from turn to turn", () => {
    const apart = laneView(4, 1, [0, 1], { apart: true });
    const note = { ...apart.notes[1]!, slides: [0, -4, 100, -4, 180, 0] };
    expect([0, 100, 140, 180, 500].map((t) => bendAt(apart, note, note.at + t))).toEqual([-4, -4, -2, 0, 0]);
    expect(bendAt(apart, apart.notes[0]!, 20)).toBe(0);
  });
});

test("glides written as overlapping notes are found in the controllers", () => {
  const glide = laneView(4, 1, [0, 1], {
    controls: [
      { at: 240, controller: 5, value: 40 },
      { at: 240, controller: 84, value: 50 },
      { at: 240, controller: 65, value: 127 },
      { at: 300, controller: 65, value: 0 },
    ],
  });
  expect(knownOf(glide).portamento).toEqual([{ since: 240, until: 300, from: 50, to: 51 }]);
});
