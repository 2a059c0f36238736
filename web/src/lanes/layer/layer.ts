import { many } from "../../words";
import type { Lane } from "../../api/gen/schema.gen";
import { knownOf } from "../../canvas/drawing/geometry";
import { later } from "../../controls/later";
import { ladderBand, leastFor, type LadderShape } from "../steps/band";
import type { LaneKind } from "../kind";
import { Add } from "./Add";
import { Board } from "./Board";
import { draw } from "./draw";
import { begin, pointer } from "./gestures";

const Daily = later(() => import("./Header").then((m) => m.Daily), 96);
const Header = later(() => import("./Header").then((m) => m.Header), 120);

export type LayerLane = Extract<Lane, { kind: "layer" }>;

const shape: LadderShape = { closed: 58, over: 0, overClosed: 0, rows: 8, rowsClosed: 8 };

/** Layers: another lane's notes, moved. They are not edited here. */
export const layer: LaneKind<LayerLane> = {
  title: "Layer",
  hint: "",
  closed: shape.closed,
  least: () => Math.max(leastFor(shape, 0), 190),
  most: 250,
  block: false,
  live: false,
  band: (_, view, room) => ladderBand(view, knownOf(view).span, room, shape, []),
  many: true,
  still: () => false,
  Top: null,
  top: 0,
  erases: false,
  ladder: (view) => view.ladder,
  draw,
  begin,
  pointer,
  Daily,
  Header,
  first: "",
  Fills: () => null,
  Board,
  Fields: () => null,
  Tools: () => null,
  Add,
  keys: [],
  anywhere: [],
  nameOf: () => "",
  speak: (lane, view) => `${lane.name} plays ${many(view.notes.length, "note")} of another lane`,
};
