import type { Lane } from "../../api/gen/schema.gen";
import { later } from "../../controls/later";
import { freeNotes } from "../../api/free";
import type { LaneKind } from "../kind";
import { bandOf, CLOSED, leastOf } from "./band";
import { Add } from "./Add";
import { keys } from "./keys";

const Fields = later(() => import("./Fields").then((m) => m.Fields), 240);
const Daily = later(() => import("./Header").then((m) => m.Daily), 80);
const Header = later(() => import("./Header").then((m) => m.Header), 200);
const Tools = later(() => import("./Tools").then((m) => m.Tools), 180);

/** How they are drawn and handled is loaded with the first such lane. */
let hands: typeof import("./hands") | null = null;
export const ready = async (): Promise<void> => void (hands ??= await import("./hands"));

export type NotesLane = Extract<Lane, { kind: "notes" }>;

/** Free notes: anywhere on an axis of their own. */
export const notes: LaneKind<NotesLane> = {
  title: "Free notes",
  hint: "Click an empty place: a note there. Drag notes and their ends, frame some with Shift, hold Alt and draw.",
  closed: CLOSED,
  least: leastOf,
  most: Number.POSITIVE_INFINITY,
  block: false,
  live: false,
  band: bandOf,
  many: true,
  chords: "asked",
  still: () => false,
  Top: null,
  top: 0,
  erases: true,
  ladder: (view) => view.ladder,
  sketches: true,
  ready,
  draw: (pen, picture) => hands?.draw(pen, picture),
  begin: (ground, p) => hands?.begin(ground, p) ?? null,
  pointer: (ground, p, note) => hands?.pointer(ground, p, note) ?? "default",
  Daily,
  Header,
  first: "Click anywhere on the ladder: a note on the grid. Hold Alt and draw for a whole contour.",
  Fills: () => null,
  Board: null,
  Fields,
  Tools,
  tools: "own",
  Add,
  keys,
  anywhere: [],
  nameOf: (_, view, place) => view.ladder.find((r) => r.pitch === view.free?.rows[place])?.name ?? "",
  speak: (lane, view, place) => {
    const note = freeNotes(lane)?.[place];
    if (!note) return "";
    const name = view.ladder.find((r) => r.pitch === view.free?.rows[place])?.name ?? "";
    const chance = note.chance < 100 ? `, chance ${note.chance} %` : "";
    return `Note ${note.number}, ${name}, at ${note.at}, ${note.length} long, velocity ${note.velocity}${chance}`;
  },
};
