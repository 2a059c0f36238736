import { speakStep } from "../steps/speak";
import type { Lane } from "../../api/gen/schema.gen";
import { later } from "../../controls/later";
import { key } from "../../controls/key";
import type { LaneKind, LaneProps } from "../kind";
import { addPhrase } from "./actions";
import { bandOf, CLOSED, leastOf } from "./band";
import { draw } from "./draw";
import { begin, pointer } from "./gestures";
import { Add } from "./Add";
import { keys } from "./keys";

export type PhraseLane = Extract<Lane, { kind: "phrase" }>;

const Fields = later(() => import("./Fields").then((m) => m.Fields), 240);
const Tools = later(() => import("./Tools").then((m) => m.Tools), 60);
const Fills = later<LaneProps<PhraseLane>>(() => import("./Tools").then((m) => m.Fills), 50);
const Daily = later(() => import("./Header").then((m) => m.Daily), 72);
const Header = later(() => import("./Header").then((m) => m.Header), 200);

/** Phrases: arpeggiators, whose steps say what a walk through a chord does. */
export const phrase: LaneKind<PhraseLane> = {
  title: "Phrase",
  hint: "Click a note to see its numbers, or an empty place to put one there.",
  closed: CLOSED,
  least: leastOf,
  most: Number.POSITIVE_INFINITY,
  block: false,
  live: false,
  band: bandOf,
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
  first: "Click a step to let it play; the chords say which notes.",
  Fills,
  Board: null,
  Fields,
  Tools,
  Add,
  keys,
  anywhere: [key("f", "F", "Lane", "New phrase", () => void addPhrase())],
  nameOf: (lane, view, place) => (lane.steps[place]?.on ? (view.names[place] ?? "") : "rest"),
  speak: (lane, view, place) => {
    const step = lane.steps[place];
    if (!step) return "";
    const moved = step.offset ? `, moved by ${step.offset} ${step.in === "scale" ? "scale steps" : "semitones"}` : "";
    const sound = step.on ? `${step.play}${moved}, ${view.names[place] || "nothing to walk"}` : "rest";
    return speakStep(lane, place, step, sound, step.glide ? "glide" : "");
  },
};
