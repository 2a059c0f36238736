import { afterEach, beforeEach, expect, test } from "vitest";
import type { Lane } from "../src/api/gen/schema.gen";
import type { Pen, Picture } from "../src/canvas/drawing/picture";
import type { Ground } from "../src/canvas/gestures/gesture";
import type { LaneKind } from "../src/lanes/kind";
import { kindOf, laneKinds } from "../src/lanes/kinds";
import { heights } from "../src/sheet/layout";
import { laneView } from "./made";
import { railsIn } from "../src/lanes/phrase/band";

/** A kind of lane made up for this test. A row in the table is all that it takes. */
const gong: LaneKind = {
  ...(laneKinds.line as unknown as LaneKind),
  title: "Gong",
  closed: 21,
  ladder: () => [],
  band: (_, view, room) => ({
    rows: view.ladder.slice(0, 1),
    rowHeight: 21,
    ladderTop: 0,
    ladderBottom: 21,
    height: room.open ? room.height : 21,
    open: room.open,
    rails: [],
  }),
  draw: (pen, p) => p.view.notes.forEach((n) => pen.fillRect(n.at * p.zoom, 0, 1, 1)),
  begin: (g) => ({ move: () => ({}), end: () => g.sound([60]) }),
  speak: (lane, _, place) => `${lane.name} stroke ${place + 1}`,
};
const table = laneKinds as unknown as Record<string, LaneKind>;
beforeEach(() => void (table.gong = gong));
afterEach(() => void delete table.gong);

const lane = { id: "g", name: "Gong", kind: "gong", steps: [] } as unknown as Lane;
const view = laneView(4, 2, [0, 2]);

test("a made-up kind is drawn, edited and spoken of by its row in the table", () => {
  const kind = kindOf(lane);
  expect(kind.title).toBe("Gong");
  const band = kind.band(lane, view, { open: false, height: 0, lowest: null });
  expect(
    heights([{ id: "g", closed: kind.closed, least: 21, most: kind.most, open: false, dragged: null }], 100).get("g"),
  ).toBe(band.height);
  const drawn: number[] = [];
  kind.draw(
    { fillRect: (x: number) => drawn.push(x) } as unknown as Pen,
    { lane, view, band, zoom: 0.1 } as unknown as Picture,
  );
  expect(drawn).toEqual([0, 48, 96, 144]);
  const heard: number[][] = [];
  kind
    .begin({ sound: (p: number[]) => heard.push(p) } as unknown as Ground, { x: 0, y: 0, shift: false, alt: false })
    ?.end();
  expect(heard).toEqual([[60]]);
  expect(kind.speak(lane, view, 1)).toBe("Gong stroke 2");
});

test("the kinds that there are look different", () => {
  const [line, pulse] = [laneKinds.line, laneKinds.pulse];
  expect([line.live, pulse.live]).toEqual([false, true]);
  expect([line.block, pulse.block]).toEqual([false, true]);
  expect(pulse.band({} as never, view, { open: false, height: 0, lowest: null }).height).toBe(pulse.closed);
});

test("an open ladder shows as many rows as its height holds, whatever the notes", () => {
  const open = (on: number[], lowest: number | null) =>
    laneKinds.line.band({ steps: view.pitches.map((_, i) => ({ on: on.includes(i) })) } as never, view, {
      open: true,
      height: 400,
      lowest,
    });
  const first = open([0], null);
  const bottom = first.rows[0]!.pitch;
  for (const on of [[0, 3], [3], [], [0, 1, 2, 3]]) expect(open(on, bottom).rows).toEqual(first.rows);
  expect(open([], bottom + 2).rows[0]!.pitch).toBe(bottom + 2);
  expect(first.rows.length * first.rowHeight).toBeLessThanOrEqual(400);
});

test("what moves a field that has no rail gives it one, of a step's own or of the lane", () => {
  const lane = { kind: "phrase", steps: [] } as never;
  const moved = (field: string, inSteps: boolean) => ({
    field,
    inSteps,
    low: 1,
    high: 8,
    written: [2, 2],
    values: [3, 4],
  });
  const names = (fields: [string, boolean][]) =>
    railsIn(lane, { ...view, moved: fields.map(([f, own]) => moved(f, own)) }).map((r) => r.name);
  const own = names([]);
  expect(names([["gate", true]])).toEqual(own);
  expect(
    names([
      ["ratchet", true],
      ["span", false],
    ]),
  ).toEqual([...own, "Ratchet", "Span"]);
  const [ratchet, span] = railsIn(lane, {
    ...view,
    moved: [moved("ratchet", true), moved("span", false)],
  }).slice(own.length);
  expect(ratchet!.patch?.(3, {} as never)).toEqual({ ratchet: 3 });
  expect(span!.patch).toBeNull();
  expect(span!.value({} as never, 1)).toBe(2);
});
