import { expect, test } from "vitest";
import { looped } from "../src/audio/looped";
import type { Part, Performance } from "../src/audio/performance";
import type { Note } from "../src/api/gen/view.gen";

const note = (at: number, length: number): Note => ({ at, length, pitch: 40, velocity: 100, step: 0 }) as Note;
const part = (more: Partial<Part>): Part =>
  ({ id: "low", notes: [], controls: [], bends: [], pressures: [], wheels: [], ...more }) as unknown as Part;
const clip = (more: Partial<Part>) =>
  ({ name: "keel", from: 0, ticks: 8000, barTicks: 1000, parts: [part(more)] }) as unknown as Performance;

test("what begins in a stretch is played from its beginning, and ends with it at the latest", () => {
  const own = looped(clip({ notes: [note(1999, 50), note(2000, 10), note(3900, 500), note(4000, 1)] }), 2000, 4000);
  expect(own).toMatchObject({ from: 2000, ticks: 2000, barTicks: 1000 });
  expect(own.parts[0]!.notes.map(({ at, length }) => [at, length])).toEqual([
    [0, 10],
    [1900, 100],
  ]);
});
test("wheel and pressure stand where they stood when the stretch begins", () => {
  const bends = [
    { at: 0, value: 0 },
    { at: 1500, value: 700 },
    { at: 2500, value: 90 },
  ];
  const values = (more: Partial<Part>) => looped(clip(more), 2000, 4000).parts[0]!;
  expect(values({ bends }).bends).toEqual([
    { at: 0, value: 700 },
    { at: 500, value: 90 },
  ]);
  expect(values({ bends: [{ at: 2000, value: 5 }] }).bends).toEqual([{ at: 0, value: 5 }]);
  expect(values({ pressures: [{ at: 100, value: 30 }] }).pressures).toEqual([{ at: 0, value: 30 }]);
  expect(values({ bends: [{ at: 3000, value: 5 }] }).bends).toEqual([{ at: 1000, value: 5 }]);
});
test("another stretch is told from it: it begins at its own bar", () => {
  expect(looped(clip({}), 0, 1000).name).not.toBe(looped(clip({}), 1000, 2000).name);
});
