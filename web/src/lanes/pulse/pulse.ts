import { speakStep, struck } from "../steps/speak";
import type { Lane } from "../../api/gen/schema.gen";
import type { LaneKind } from "../kind";
import { Add } from "./Add";
import { bandOf, CLOSED, leastOf, MOST } from "./band";
import { draw } from "./draw";
import { later } from "../../controls/later";
import { begin, pointer } from "./gestures";
import { Daily, Fills, Header, Tools } from "./Header";
import { keys } from "./keys";

const Fields = later(() => import("./Fields").then((m) => m.Fields), 160);

export type PulseLane = Extract<Lane, { kind: "pulse" }>;

/** Pulses: one pitch or drum on one row; its marks are as high as they are loud. */
export const pulse: LaneKind<PulseLane> = {
  title: "Pulse",
  hint: "Click a note to see its numbers, or an empty place to put one there.",
  closed: CLOSED,
  least: leastOf,
  most: MOST,
  block: true,
  live: true,
  band: bandOf,
  many: false,
  still: () => false,
  Top: null,
  top: 0,
  erases: true,
  ladder: () => [],
  draw,
  begin,
  pointer,
  Daily,
  Header,
  first: "Click a step: a hit. Its height is how hard it is struck.",
  Fills,
  Board: null,
  Fields,
  Tools,
  Add,
  keys,
  anywhere: [],
  nameOf: (lane, view, place) => (lane.steps[place]?.on ? (view.ladder[0]?.name ?? "") : "rest"),
  speak: (lane, _, place) => {
    const step = lane.steps[place];
    if (!step) return "";
    return speakStep(lane, place, step, step.on ? `hit, ${struck(step)}` : "rest");
  },
};
