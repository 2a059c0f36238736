import { speakStep } from "../steps/speak";
import type { Lane } from "../../api/gen/schema.gen";
import { later } from "../../controls/later";
import type { LaneKind } from "../kind";
import { Add } from "./Add";
import { bandOf, CLOSED, leastOf, MOST } from "./band";
import { draw } from "./draw";
import { begin, pointer } from "./gestures";
import { keys } from "./keys";
import { targetName } from "./targets";

const Fields = later(() => import("./Fields").then((m) => m.Fields), 160);
const Daily = later(() => import("./Header").then((m) => m.Daily), 120);

export type ControlLane = Extract<Lane, { kind: "control" }>;

/** Controls: a curve of values that moves a controller, the wheel or the pressure. */
export const control: LaneKind<ControlLane> = {
  title: "Control",
  hint: "Drag across the band to draw its values; with Alt, to take them away.",
  closed: CLOSED,
  least: leastOf,
  most: MOST,
  block: false,
  live: false,
  band: bandOf,
  many: false,
  acts: (lane) => ({ on: lane.to, what: targetName(lane.target) }),
  still: (lane) => lane.follows !== null,
  Top: null,
  top: 0,
  erases: false,
  ladder: () => [],
  draw,
  begin,
  pointer,
  Daily,
  Header: null,
  first: "Drag across: the values that it moves.",
  Fills: () => null,
  Board: null,
  Fields,
  Tools: () => null,
  Add,
  keys,
  anywhere: [],
  nameOf: (lane, _, place) => (lane.steps[place]?.on ? String(lane.steps[place]!.value) : "as before"),
  speak: (lane, _, place) => {
    const step = lane.steps[place];
    if (!step) return lane.name;
    return speakStep(lane, place, step, step.on ? `value ${step.value}` : "stays as before");
  },
};
