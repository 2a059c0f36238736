import { many } from "../../words";
import { speakStep } from "../steps/speak";
import type { Lane } from "../../api/gen/schema.gen";
import type { LaneKind } from "../kind";
import { key } from "../../controls/key";
import { addChords } from "./actions";
import { bandOf, CLOSED, leastOf } from "./band";
import { draw } from "./draw";
import { begin, pointer } from "./gestures";
import { Add, Fills } from "./Add";
import { keys } from "./keys";
import { Board, Daily, Fields, Header, Progression, PROGRESSION_HEIGHT, Tools } from "./parts";

export type ChordsLane = Extract<Lane, { kind: "chords" }>;

/** Chords: steps that choose from a palette, on a ladder with their names above. */
export const chords: LaneKind<ChordsLane> = {
  title: "Chords",
  hint: "Click a note to see its numbers, or an empty place to put one there.",
  closed: CLOSED,
  least: leastOf,
  most: Number.POSITIVE_INFINITY,
  block: false,
  live: false,
  band: bandOf,
  many: true,
  chords: "always",
  still: () => false,
  Top: Progression,
  top: PROGRESSION_HEIGHT,
  erases: false,
  ladder: (view) => view.ladder,
  draw,
  begin,
  pointer,
  Daily,
  Header,
  first: "Click a line of the ladder: a tone of the chord. Or write chords in the line above.",
  Fills,
  Board,
  Fields,
  Tools,
  Add,
  keys,
  anywhere: [key("d", "D", "Lane", "New chords lane", () => void addChords())],
  nameOf: (lane, view, place) => (lane.steps[place]?.on ? (view.names[place] ?? "") : "rest"),
  speak: (lane, view, place) => {
    const step = lane.steps[place];
    if (!step) return "";
    const entry = view.chart?.palette[step.chord - 1];
    const sound = step.on
      ? `${view.names[place]}, ${entry?.numeral}, ${many(view.pitches[place]?.length ?? 0, "tone")}`
      : "rest";
    return speakStep(lane, place, step, sound);
  },
};
