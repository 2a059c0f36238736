import type { Cell } from "../api/gen/piece.gen";
import { many } from "../words";
import { laneFact, laneFacts } from "../api/facts";
import type { Lane, Op, Step } from "../api/gen/schema.gen";
import { reverseOp, setOp, transposeOp } from "../api/free";
import { useSheet } from "./sheet";
import { affected, among, clipOf, laneIn, laneOf, placesOf, stepsOf, useApp } from "./store";
import type { Edit } from "./app";

const app = useApp.getState;

/** A change of fields; the server says no to what a lane's kind lacks. */
type Patch = Record<string, unknown>;

/** The clip and lane that are worked on. */
export const here = () => ({ clip: app().clip, lane: app().lane });

/** Changes fields of the selected steps. */
export function setSelected(patch: Patch): void {
  const { selection, edit, clip } = app();
  const own = laneOf(app());
  if (selection.length && own) void edit([setOp(clip, own, selection, patch)]);
}

/** Edits the selected steps, building on what they are when the edit's turn comes. */
function editSelected<S extends Cell>(
  build: (steps: S[], chosen: number[]) => { places: number[]; patch: Patch }[],
): void {
  const { selection, edit } = app();
  const { clip, lane } = here();
  if (!selection.length) return;
  void edit((now) => {
    const own = laneIn(now, clip, lane);
    const steps = (own ? stepsOf(own) : []) as unknown as S[];
    const chosen = selection.filter((n) => n < steps.length);
    return own && chosen.length
      ? build(steps, chosen).map(({ places, patch }): Op => setOp(clip, own, places, patch))
      : [];
  });
}

/** Changes a field of each selected step to a value of its own. */
export function setEach<S extends Cell = Cell>(field: string, value: (step: S) => unknown): void {
  editSelected<S>((steps, chosen) => chosen.map((n) => ({ places: [n], patch: { [field]: value(steps[n]!) } })));
}

/** Turns a yes-or-no field of the selected steps over: on unless all have it. */
export function toggle<S extends Cell = Cell>(has: (step: S) => boolean, on: Patch, off: Patch): void {
  editSelected<S>((steps, chosen) => [{ places: chosen, patch: chosen.every((n) => has(steps[n]!)) ? off : on }]);
}

/** Lets the selected steps glide into their notes, or where all do, no longer; first is what their lane needs set for it. */
export function turnGlide(first: Patch | null = null): void {
  const { selection, edit } = app();
  const { clip, lane } = here();
  void edit((now) => {
    const own = laneIn(now, clip, lane);
    const steps = (own ? stepsOf(own) : []) as unknown as { glide: unknown }[];
    const chosen = selection.filter((n) => n < steps.length);
    if (!own || !chosen.length) return [];
    const on = chosen.some((n) => steps[n]!.glide === null);
    const lanes: Op[] = on && first ? [{ op: "lane.set", clip, lane, patch: first }] : [];
    return [...lanes, setOp(clip, own, chosen, { glide: on ? { time: 50 } : null })];
  });
}

/** Makes the lane a step longer or shorter. */
export function resizeBy(by: number, most: number): void {
  const { clip, lane } = here();
  void app().edit((now) => {
    const own = laneIn(now, clip, lane);
    const count = (own ? placesOf(own) : 0) + by;
    return count >= 1 && count <= most ? [{ op: "lane.resize", clip, lane, count }] : [];
  });
}

/** The clip, lane and steps that an edit of the selection, or of the whole lane
 * when nothing is selected, is of. */
export interface Chosen {
  clip: string;
  lane: string;
  steps: number[];
}

/** Edits of the selected steps, or of all, as far as the lane has them when their turn comes. */
export function onChosenAll(build: (on: Chosen) => Op[]): Edit {
  const { selection } = app();
  const { clip, lane } = here();
  return (now) => {
    const own = laneIn(now, clip, lane);
    const steps = own ? among(selection, placesOf(own)) : [];
    return steps.length ? build({ clip, lane, steps }) : [];
  };
}

/** Edits the selected steps, or all. */
export const onChosen = (build: (on: Chosen) => Op): Promise<boolean> => app().edit(onChosenAll((on) => [build(on)]));

/** Edits what is selected, or all, by its places from 0, as far as the lane has them when the edit's
 * turn comes. */
export function onPlaces(build: (clip: string, lane: Lane, places: number[]) => Op): Promise<boolean> {
  const { selection, edit } = app();
  const { clip, lane } = here();
  return edit((now) => {
    const own = laneIn(now, clip, lane);
    const places = own ? among(selection, placesOf(own)).map((n) => n - 1) : [];
    return own && places.length ? [build(clip, own, places)] : [];
  });
}

/** Moves what is selected, or all, in pitch. */
export const transposeChosen = (unit: string, by: number): Promise<boolean> =>
  onPlaces((clip, lane, places) => transposeOp(clip, lane, places, unit, by));

/** Turns what is selected, or all, back to front. */
export const reverseChosen = (): Promise<boolean> => onPlaces(reverseOp);

export function setLane(lane: string, patch: Patch): void {
  void app().edit([{ op: "lane.set", clip: app().clip, lane, patch }]);
}

/** Turns a lane's yes-or-no field over, from what it is when the edit's turn comes. */
export function flip(lane: string, field: "mute" | "solo"): void {
  const { clip } = app();
  void app().edit((now) => {
    const own = laneIn(now, clip, lane);
    return own ? [{ op: "lane.set", clip, lane, patch: { [field]: !own[field] } }] : [];
  });
}

/** Lets all that moves a lane be as if it were not there, or, where anything is, be there again. */
export function bypassAll(lane: string): void {
  const { clip } = app();
  void app().edit((now) => {
    const own = laneIn(now, clip, lane);
    if (!own) return [];
    const without = own.bypass.length > 0 || own.modulators.some((m) => m.off);
    const patch = {
      bypass: without ? [] : (laneFacts(own.kind).bypass?.choices ?? []),
      ...(own.modulators.length ? { modulators: own.modulators.map((m) => ({ ...m, off: !without })) } : {}),
    };
    return [{ op: "lane.set", clip, lane, patch }];
  });
}

/** The lengths that windows were given, and the windows that were made of them where a lane has no
 * room for so much from their start on. */
const wanted = new Map<string, { count: number; made: { start: number; count: number } }>();

/** Changes one end of a lane's window. One that moves keeps its length as far as it can, and has
 * it back where there is room again. */
export function setWindow(id: string, part: { start?: number; count?: number }): void {
  const { clip, id: piece } = app();
  void app().edit((now) => {
    const lane = laneIn(now, clip, id);
    if (!lane) return [];
    const all = placesOf(lane);
    const was = { start: lane.window?.start ?? 1, count: lane.window?.count ?? all };
    const known = wanted.get(`${piece} ${clip} ${id}`);
    const same = known?.made.start === was.start && known.made.count === was.count;
    const long = part.count ?? (same ? known.count : was.count);
    const start = part.start ?? was.start;
    const made = { start, count: Math.min(long, all - start + 1) };
    wanted.set(`${piece} ${clip} ${id}`, { count: long, made });
    return [{ op: "lane.set", clip, lane: id, patch: { window: start === 1 && made.count >= all ? null : made } }];
  });
}

/** Whether the sheet shows the whole clip. */
function wholeInSight(): boolean {
  const { view } = app();
  return !!view && useSheet.getState().bars >= view.reach / view.barTicks - 1e-6;
}

/** Goes to the last lane, which was just added, opening it if that is wanted. Where the
 * whole clip was in sight, it still is when the lane has made it longer. */
function goToNew(open: boolean, whole: boolean): void {
  const last = clipOf(app())?.lanes.at(-1);
  if (!last) return;
  app().goTo(last.id);
  if (open) useSheet.getState().show(last.id);
  if (whole && !wholeInSight()) useSheet.getState().set({ bars: 0, scroll: 0 });
}

/** Makes lanes by edits and goes to the last of them. */
export async function makeLanes(ops: Op[], open = true): Promise<boolean> {
  const whole = wholeInSight();
  const made = await app().edit(ops);
  if (made) goToNew(open, whole);
  return made;
}

/** Adds lanes and goes to the last of them, opening it if that is wanted. */
export async function addLanes(
  lanes: { kind: Lane["kind"]; name?: string; patch?: Patch }[],
  open = true,
): Promise<void> {
  const { clip } = app();
  await makeLanes(
    lanes.map((lane, i): Op => ({ op: "lane.add", clip, ...lane, first: i === 0 })),
    open,
  );
}

export function setPiece(patch: Patch): void {
  void app().edit([{ op: "piece.set", patch }]);
}

export function setClip(patch: Patch): void {
  void app().edit([{ op: "clip.set", clip: app().clip, patch }]);
}

export function copySteps(): void {
  const lane = laneOf(app());
  if (lane)
    app().set({
      laneCopied: "",
      clipboard: { kind: lane.kind, steps: affected(app()).map((n) => stepsOf(lane)[n - 1]!) },
    });
}

/** Writes steps into places of a lane, rising, which grows as far as it must; those that it has no
 * room for are told. */
function writeInto(
  places: readonly number[],
  content: readonly Step[],
  loose: (there: Lane) => boolean,
  only = "",
): void {
  const { edit, select, set } = app();
  const { clip, lane } = here();
  const most = laneFact.steps.high;
  const fits = places.filter((n) => n < most);
  const last = fits.at(-1);
  if (last === undefined) {
    set({ error: `No step has room there: a lane has at most ${most}.` });
    return;
  }
  void edit((now) => {
    const there = laneIn(now, clip, lane);
    if (!there) return [];
    const grown: Op[] = last >= placesOf(there) ? [{ op: "lane.resize", clip, lane, count: last + 1 }] : [];
    const steps = fits.map((n) => n + 1);
    return [
      ...grown,
      { op: "steps.write", clip, lane, steps, content: content.slice(0, fits.length), loose: loose(there), only },
    ];
  }).then((made) => {
    if (!made) return;
    select(fits, fits[0]);
    const left = places.length - fits.length;
    if (left) set({ error: `The last ${many(left, "step")} had no room: a lane has at most ${most}.` });
  });
}

/** Pastes from the cursor on; with only one part of it: pitches, rhythm, velocities, lengths, chance. Of steps of a lane
 * of another kind the rhythm is taken; what the lane plays stays. One part of a few steps is pasted over all that are
 * selected, again and again. */
export function pasteSteps(only = ""): void {
  const { clipboard, selection, cursor, set } = app();
  const own = laneOf(app());
  if (!own) return;
  if (!clipboard.steps.length) set({ error: "Nothing was copied yet." });
  else if (!placesOf(own)) set({ error: `${own.name} has no steps of its own to paste into.` });
  else {
    const first = selection[0] ?? cursor;
    const over = only && selection.length > 1 ? selection : clipboard.steps.map((_, i) => first + i);
    writeInto(
      over,
      over.map((_, i) => clipboard.steps[i % clipboard.steps.length]!),
      (there) => clipboard.kind !== there.kind,
      only,
    );
  }
}

/** Writes the selected steps again right after themselves. */
export function repeatSteps(): void {
  const { selection } = app();
  const own = laneOf(app());
  const [first, last] = [selection[0], selection.at(-1)];
  if (!own || first === undefined || last === undefined) return;
  writeInto(
    selection.map((n) => n + last - first + 1),
    selection.map((n) => stepsOf(own)[n]!),
    () => false,
  );
}
