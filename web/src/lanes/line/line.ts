import { speakStep, struck } from "../steps/speak";
import type { Lane } from "../../api/gen/schema.gen";
import type { LaneKind } from "../kind";
import { key } from "../../controls/key";
import { addLanes } from "../../state/actions";
import { bandOf, CLOSED, leastOf } from "./band";
import { draw } from "./draw";
import { Add, Daily, Fills, Header, Tools } from "./Header";
import { later } from "../../controls/later";
import { begin, pointer } from "./gestures";
import { keys } from "./keys";

const Fields = later(() => import("./Fields").then((m) => m.Fields), 240);

export type LineLane = Extract<Lane, { kind: "line" }>;

/** Lines: one note at a time on a ladder of the key's notes. */
export const line: LaneKind<LineLane> = {
  title: "Line",
  hint: "Click a note to see its numbers, or an empty place to put one there.",
  closed: CLOSED,
  least: leastOf,
  most: Number.POSITIVE_INFINITY,
  block: false,
  live: false,
  band: bandOf,
  many: false,
  still: () => false,
  Top: null,
  top: 0,
  erases: true,
  ladder: (view) => view.ladder,
  sketches: true,
  draw,
  begin,
  pointer,
  Daily,
  Header,
  first: "Click a line of the ladder: a note. Drag on for more, up and down for its pitch.",
  Fills,
  Board: null,
  Fields,
  Tools,
  Add,
  keys,
  anywhere: [key("n", "N", "Lane", "New line", () => void addLanes([{ kind: "line" }]))],
  nameOf: (lane, view, place) => (lane.steps[place]?.on ? (view.names[place] ?? "") : "rest"),
  speak: (lane, view, place) => {
    const step = lane.steps[place];
    if (!step) return "";
    const sound = step.on ? `${view.names[place]}, ${struck(step)}` : "rest";
    return speakStep(lane, place, step, sound, step.glide ? "glide" : "");
  },
};
