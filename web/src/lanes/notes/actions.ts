import { many } from "../../words";
import type { Op } from "../../api/gen/schema.gen";
import { onPlaces, transposeChosen } from "../../state/actions";
import { laneIn, laneOf, useApp } from "../../state/store";
import { useSheet } from "../../state/sheet";
import { freeNotes, type FullNote } from "../../api/free";
import { pointerAt } from "./gestures";
import { grid, nearest, useHands, selectNewest } from "./state";
import { written } from "./stroke";

export const app = useApp.getState;

/** The notes of the lane that is worked on. */
const own = (): FullNote[] => {
  const lane = laneOf(app());
  return (lane && freeNotes(lane)) ?? [];
};

/** Edits the selected notes, or all, by their numbers. */
const onNotes = (build: (on: { clip: string; lane: string; notes: number[] }) => Op): Promise<boolean> =>
  onPlaces((clip, lane, places) => {
    const notes = freeNotes(lane) ?? [];
    return build({ clip, lane: lane.id, notes: places.map((n) => notes[n]!.number) });
  });

/** The same where something is selected; says so where nothing is. */
function onSelected(what: string, build: Parameters<typeof onNotes>[0]): Promise<boolean> {
  if (app().selection.length) return onNotes(build);
  app().set({ error: `Nothing is selected to ${what}: click a note, or frame some with Shift.` });
  return Promise.resolve(false);
}

/** Makes notes by an edit, and selects those that are new. */
async function making(edit: () => Promise<boolean>): Promise<void> {
  const { clip, lane } = app();
  const known = new Set(own().map((n) => n.number));
  if (await edit()) selectNewest(clip, lane, 0, known);
}

export const cutInto = (parts: number) => onSelected("cut", (on) => ({ op: "notes.cut", ...on, parts }));
export const join = () => onSelected("join", (on) => ({ op: "notes.join", ...on }));
export const remove = () => onSelected("take away", (on) => ({ op: "notes.remove", ...on }));
export const repeat = () =>
  making(() => onSelected("repeat", (on) => ({ op: "notes.repeat", ...on, times: 1, every: spanOnGrid() })));

/** The time that the selected notes take, up to the next line of the grid, or the beats of the frame that selected them. */
function spanOnGrid(): number {
  const notes = own();
  const chosen = app().selection.flatMap((n) => notes[n] ?? []);
  const from = Math.min(...chosen.map((n) => n.at));
  const long = Math.max(...chosen.map((n) => n.at + n.length)) - from;
  const step = grid() ?? 1;
  const { framed } = useHands.getState();
  const beat = app().view?.beatTicks ?? 1;
  const same = framed?.lane === app().lane && framed.notes.join() === app().selection.join();
  return Math.max(Math.ceil(long / step) * step, same ? Math.round(framed.ticks / beat) * beat : 0);
}

/** Cuts the note under the pointer in two there, and those that are selected with it. */
export function cutAtPointer(): Promise<boolean> {
  const { hover, lane, view, selection, select } = app();
  const pointed = view?.lanes.find((l) => l.id === lane)?.notes[hover?.lane === lane ? hover.note : -1];
  if (pointed && !selection.includes(pointed.step)) select([pointed.step], pointed.step);
  return onSelected("cut", (on) => ({ op: "notes.cut", ...on, at: nearest(pointerAt()) }));
}

/** Moves the selected notes in time by lines of the grid, or where there is none by ticks. */
export const moveLater = (by: number) =>
  onSelected("move", (on) => ({ op: "notes.move", ...on, later: by * (grid() ?? 10) }));

/** Makes the selected notes longer or shorter by half a line of the grid. */
export function lengthen(by: number): void {
  const half = Math.max(Math.round((grid() ?? 20) / 2), 1);
  each((n) => ({ length: Math.max(n.length + by * half, 1) }));
}

/** Changes each selected note by what it is. */
export function each(change: (note: FullNote) => Record<string, unknown>): void {
  const { clip, lane, selection, edit, set } = app();
  if (!selection.length) {
    set({ error: "Nothing is selected: click a note, or frame some with Shift." });
    return;
  }
  void edit((now) => {
    const there = laneIn(now, clip, lane);
    const notes = (there && freeNotes(there)) ?? [];
    const chosen = selection.flatMap((n) => notes[n] ?? []);
    return chosen.length
      ? [{ op: "notes.write", clip, lane, notes: chosen.map((n) => ({ number: n.number, ...change(n) })) }]
      : [];
  });
}

/** Moves the selected notes so that the first begins at the clip's start. */
export const bringToStart = () => onSelected("bring", (on) => ({ op: "notes.bring", ...on, to: loopStart() }));
const loopStart = () => app().view?.lanes.find((l) => l.id === app().lane)?.free?.start ?? 0;

/** Draws the selected notes' time longer or shorter by a share of it. */
export function stretch(share: number): void {
  const notes = own();
  const chosen = app().selection.flatMap((n) => notes[n] ?? []);
  if (!chosen.length) {
    app().set({ error: "Nothing is selected to stretch: click a note, or frame some with Shift." });
    return;
  }
  const start = Math.min(...chosen.map((n) => n.at));
  const end = Math.max(...chosen.map((n) => n.at + n.length));
  const { snap, feel } = useHands.getState();
  void onNotes((on) => ({
    op: "notes.stretch",
    ...on,
    start,
    end: start + Math.max(Math.round((end - start) * share), 1),
    ...(feel && snap ? { feel, snap } : {}),
  }));
}

/** Takes the selected notes as the motif that Alt stamps, or forgets it. */
export function takeMotif(): void {
  const notes = own();
  const chosen = app().selection.flatMap((n) => notes[n] ?? []);
  const { motif, setMotif } = useHands.getState();
  if (!chosen.length) {
    if (!motif) app().set({ error: "Nothing is selected to take as a motif." });
    setMotif(null);
    return;
  }
  setMotif({ lane: app().lane, notes: chosen, steps: [] });
  app().set({
    remark: `${many(chosen.length, "note")} taken as the motif: hold Alt and draw to stamp it.`,
    error: "",
    mends: [],
  });
}

export const forgetMotif = () => useHands.getState().setMotif(null);

/** What was copied last: notes, from the first of them on. */
let copied: FullNote[] = [];

export function copy(): void {
  const notes = own();
  copied = app().selection.flatMap((n) => notes[n] ?? []);
  app().set({ laneCopied: "" });
}

/** Puts what was copied at the cursor: where the note under it begins, or the start. */
export function paste(): void {
  const { clip, lane, edit, set } = app();
  if (!copied.length) {
    set({ error: "Nothing was copied yet." });
    return;
  }
  const first = Math.min(...copied.map((n) => n.at));
  const to = own()[app().cursor]?.at ?? loopStart();
  void making(() =>
    edit([{ op: "notes.add", clip, lane, notes: copied.map((n) => ({ ...written(n), at: n.at - first + to })) }]),
  );
}

/** The fields that each part of a copied note brings, for a note that is the k-th of those selected. */
const parts: Record<string, (from: FullNote, at: number) => Record<string, unknown>> = {
  pitches: ({ degree, octave, alter, note, glide, bend }) => ({
    ...(note === null ? { degree, octave, alter } : { note }),
    glide,
    bend,
  }),
  rhythm: ({ length, velocity, tie }, at) => ({ at, length, velocity, tie }),
  velocities: ({ velocity }) => ({ velocity }),
  lengths: ({ length, tie }) => ({ length, tie }),
  chance: ({ chance, rounds }) => ({ chance, rounds }),
};

/** Gives the selected notes, in order of time, one part of those that were copied, again and again. */
export function pasteOnly(only: string): void {
  const take = parts[only];
  if (!copied.length || !take) {
    app().set({ error: "Nothing was copied yet." });
    return;
  }
  const chosen = app().selection.flatMap((n) => own()[n] ?? []);
  const byTime = (a: FullNote, b: FullNote) => a.at - b.at;
  const from = copied.toSorted(byTime);
  const order = new Map(chosen.toSorted(byTime).map((n, k) => [n.number, k]));
  const [first, last] = [Math.min(...from.map((n) => n.at)), Math.max(...from.map((n) => n.at + n.length))];
  const start = Math.min(...chosen.map((n) => n.at));
  const every = Math.max(Math.ceil((last - first) / (grid() ?? 1)) * (grid() ?? 1), 1);
  each((n) => {
    const k = order.get(n.number) ?? 0;
    const source = from[k % from.length]!;
    return take(source, start + source.at - first + Math.floor(k / from.length) * every);
  });
}

/** Goes to the next note in time, or the one before. */
export function walk(by: number, extend: boolean): void {
  const s = app();
  const notes = own();
  if (!notes.length) return;
  const at = Math.min(Math.max(s.selection.length ? s.cursor + by : s.cursor, 0), notes.length - 1);
  s.select(extend ? [...s.selection, at] : [at], at);
}

/** Moves what is selected in pitch, and keeps it in sight. */
export function shift(unit: string, by: number): void {
  const { lane, cursor: place } = app();
  if (!app().selection.length) app().select([place], place);
  void transposeChosen(unit, by).then(
    (moved) => moved && useSheet.getState().set({ follow: { lane, place, note: true } }),
  );
}
