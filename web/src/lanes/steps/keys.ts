import type { Cell } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";
import { facts, stepFacts } from "../../api/facts";
import { freeNotes } from "../../api/free";
import { onChosen, reverseChosen, setEach, setSelected, toggle, transposeChosen } from "../../state/actions";
import { removePoint } from "../../canvas/gestures/bends";
import { laneOf, laneViewOf, placesOf, useApp } from "../../state/store";
import { alsoKey, key, type Key } from "../../controls/key";
import { audition } from "../../state/player";
import { useSheet } from "../../state/sheet";

const app = useApp.getState;

/** Moves the cursor by steps; with Shift the selection grows with it. */
function walk(by: number, extend: boolean): void {
  const s = app();
  const lane = laneOf(s);
  if (!lane) return;
  const start = s.selection.length ? s.cursor : s.cursor - by;
  const next = Math.min(Math.max(start + by, 0), placesOf(lane) - 1);
  s.select(extend ? [...s.selection, next] : [next], next);
}

/** Does something to what is selected; without a selection to the step under the
 * cursor. */
export function withCursor(work: () => unknown): void {
  const s = app();
  if (!s.selection.length) s.select([s.cursor], s.cursor);
  work();
}

/** Does something with the degree that a digit stands for; says so where the key has none. */
export function withDegree(e: KeyboardEvent, work: (degree: number) => void): void {
  const { view, set } = app();
  if (!view) return;
  const degree = Number(e.key);
  if (degree <= view.keyNotes.length) work(degree);
  else set({ error: `There is no degree ${degree}: ${view.key} has ${view.keyNotes.length}.` });
}

/** Moves what is selected in pitch, and keeps it in sight. */
export function move(unit: string, by: number): void {
  withCursor(() => {
    const { lane, cursor: place } = app();
    void transposeChosen(unit, by).then(
      (moved) => moved && useSheet.getState().set({ follow: { lane, place, note: true } }),
    );
  });
}

/** Puts the selected steps on, where they stand, or off. */
function onOff(): void {
  withCursor(() => toggle((step) => step.on, { on: true }, { on: false }));
  const s = app();
  const [view, lane] = [laneViewOf(s), laneOf(s)];
  if (lane && view) audition(lane, view.pitches[s.cursor] ?? []);
}

/** A value held to the range of its field, which is the same in every stepped kind. */
const within = (field: "gate" | "velocity", v: number) => {
  const { low, high } = facts.step.line[field];
  return Math.min(Math.max(v, low), high);
};
const each = (field: keyof Cell, value: (step: Cell) => unknown) => withCursor(() => setEach(field, value));
const turn = (has: (step: Cell) => boolean, on: Partial<Cell>, off: Partial<Cell>) =>
  withCursor(() => toggle(has, on, off));
const rest = () => withCursor(() => setSelected({ on: false }));

/** Does something to several selected steps; where not even two are, to the whole lane. */
function overMany(work: () => unknown): void {
  const { selection, select, cursor } = app();
  if (selection.length < 2) select([], cursor);
  work();
  if (selection.length < 2) select(selection, cursor);
}

/** Whether a lane has steps. */
export const stepped = (lane: Lane): boolean => "steps" in lane;

/** Whether places of a lane have a field. */
const has =
  (field: keyof Cell): NonNullable<Key["holds"]> =>
  (lane) =>
    (stepped(lane) || freeNotes(lane) !== null) && stepFacts(lane.kind)[field] !== undefined;

/** A key that holds where places have a field. */
const only = (field: keyof Cell, own: Key): Key => ({ ...own, holds: has(field) });

const all: Key[] = [
  key("ArrowRight", "→ ←", "Walk", "Next or previous step; Shift keeps the selection", (e) => walk(1, e.shiftKey)),
  alsoKey("ArrowLeft", "Walk", (e) => walk(-1, e.shiftKey)),
  { ...key("Home", "Home", "Walk", "First step", () => app().select([0], 0)), holds: (lane) => placesOf(lane) > 0 },
  key("Mod+a", "Ctrl A", "Walk", "All steps of the lane", () =>
    app().select(Array.from({ length: placesOf(laneOf(app())!) }, (_, i) => i)),
  ),
  key("Enter", "Enter", "Note", "Note on or off", onOff),
  key("r", "R", "Note", "Make it a rest", rest),
  key("Delete", "Delete", "Note", "Make it a rest", () => removePoint() || rest()),
  only(
    "tie",
    key("t", "T", "Shape", "Tie to the next step", () => turn((s) => s.tie, { tie: true }, { tie: false })),
  ),
  only(
    "velocity",
    key("a", "A", "Shape", "Accent", () => turn((s) => s.velocity >= 118, { velocity: 120 }, { velocity: 100 })),
  ),
  only(
    "skip",
    key("k", "K", "Shape", "Skip the step", () => turn((s) => s.skip, { skip: true }, { skip: false })),
  ),
  only(
    "chance",
    key("c", "C", "Shape", "Chance: 100, 75, 50, 25 %", () =>
      each("chance", (s) => (s.chance <= 25 ? 100 : s.chance <= 50 ? 25 : s.chance <= 75 ? 50 : 75)),
    ),
  ),
  only(
    "ratchet",
    key("h", "H", "Shape", "Ratchet: 1, 2, 3, 4", () => each("ratchet", (s) => (s.ratchet % 4) + 1)),
  ),
  only(
    "gate",
    key(",", ", .", "Shape", "Gate shorter or longer", () => each("gate", (s) => within("gate", s.gate - 5))),
  ),
  only(
    "gate",
    alsoKey(".", "Shape", () => each("gate", (s) => within("gate", s.gate + 5))),
  ),
  only(
    "velocity",
    key("-", "− +", "Shape", "Softer or harder", () => each("velocity", (s) => within("velocity", s.velocity - 6))),
  ),
  {
    holds: has("velocity"),
    keys: ["+", "="],
    shown: "",
    group: "Shape",
    does: "",
    run: () => each("velocity", (s) => within("velocity", s.velocity + 6)),
  },
  {
    keys: ["<", ">"],
    shown: "< >",
    group: "Many",
    does: "Rotate the selection, or the lane, by a step",
    run: (e) => {
      const by = e.key === "<" ? -1 : 1;
      overMany(() => onChosen((on) => ({ op: "steps.rotate", ...on, by })));
    },
  },
  key("b", "B", "Many", "Turn the selection, or the lane, back to front", () => overMany(reverseChosen)),
];

/** Keys of every kind of lane with steps, and of those of free notes what is of fields that these have, too. */
export const stepKeys: Key[] = all.map((own) => ({ ...own, holds: own.holds ?? stepped }));
