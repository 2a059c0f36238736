import { later } from "../../controls/later";
import type { LaneProps } from "../kind";
import type { ChordsLane } from "./chords";

// What is loaded when a chords lane is first worked on.

type Props = LaneProps<ChordsLane>;

/** Height of the chord line, in pixels. */
export const PROGRESSION_HEIGHT = 32;

export const Board = later<Props>(() => import("./Board").then((m) => m.Board), 180);
export const Progression = later<Props>(() => import("./Progression").then((m) => m.Progression), PROGRESSION_HEIGHT);
export const Fields = later<Props & { selection: number[] }>(() => import("./Fields").then((m) => m.Fields), 320);
export const Daily = later<Props>(() => import("./Header").then((m) => m.Daily), 22);
export const Header = later<Props>(() => import("./Header").then((m) => m.Header), 160);
export const Tools = later<Props>(() => import("./Header").then((m) => m.Tools), 60);
