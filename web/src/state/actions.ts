import type { Cell } from "../api/gen/piece.gen";
import type { Lane, Op } from "../api/gen/schema.gen";
import { useSheet } from "./sheet";
import { affected, among, clipOf, laneIn, laneOf, placesOf, stepsOf, useApp } from "./store";

const app = useApp.getState;

/** A change of fields; the server says no to what a lane's kind lacks. */
export type Patch = Record<string, unknown>;

/** The clip and lane that are worked on. */
export const here = () => ({ clip: app().clip, lane: app().lane });

/** Changes fields of the selected steps. */
export function setSelected(patch: Patch): void {
  const { selection, edit } = app();
  if (selection.length) void edit([{ op: "steps.set", ...here(), steps: selection.map((n) => n + 1), patch }]);
}

/** Edits the selected steps, building on what they are when the edit's turn comes. */
function editSelected<S extends Cell>(
  build: (steps: S[], chosen: number[]) => { steps: number[]; patch: Patch }[],
): void {
  const { selection, edit } = app();
  const { clip, lane } = here();
  if (!selection.length) return;
  void edit((now) => {
    const own = laneIn(now, clip, lane);
    const steps = (own ? stepsOf(own) : []) as unknown as S[];
    const chosen = selection.filter((n) => n < steps.length);
    return chosen.length ? build(steps, chosen).map((part): Op => ({ op: "steps.set", clip, lane, ...part })) : [];
  });
}

/** Changes a field of each selected step to a value of its own. */
export function setEach<S extends Cell = Cell>(field: string, value: (step: S) => unknown): void {
  editSelected<S>((steps, chosen) => chosen.map((n) => ({ steps: [n + 1], patch: { [field]: value(steps[n]!) } })));
}

/** Turns a yes-or-no field of the selected steps over: on unless all have it. */
export function toggle<S extends Cell = Cell>(has: (step: S) => boolean, on: Patch, off: Patch): void {
  editSelected<S>((steps, chosen) => [
    { steps: chosen.map((n) => n + 1), patch: chosen.every((n) => has(steps[n]!)) ? off : on },
  ]);
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

/** Edits the selected steps, or all, as far as the lane has them when the edit's turn
 * comes. */
export function onChosen(build: (on: Chosen) => Op): Promise<boolean> {
  const { selection, edit } = app();
  const { clip, lane } = here();
  return edit((now) => {
    const own = laneIn(now, clip, lane);
    const steps = own ? among(selection, placesOf(own)) : [];
    return steps.length ? [build({ clip, lane, steps })] : [];
  });
}

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

/** Changes one end of a lane's window and keeps the other as far as it fits. */
export function setWindow(id: string, part: { start?: number; count?: number }): void {
  const { clip } = app();
  void app().edit((now) => {
    const lane = laneIn(now, clip, id);
    if (!lane) return [];
    const all = placesOf(lane);
    const start = part.start ?? lane.window?.start ?? 1;
    const count = Math.min(part.count ?? lane.window?.count ?? all, all - start + 1);
    return [
      { op: "lane.set", clip, lane: id, patch: { window: start === 1 && count >= all ? null : { start, count } } },
    ];
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
    lanes.map((lane): Op => ({ op: "lane.add", clip, ...lane })),
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
  if (lane) app().set({ clipboard: { kind: lane.kind, steps: affected(app()).map((n) => stepsOf(lane)[n - 1]!) } });
}

/** Pastes from the cursor on, as far as the lane reaches. Of steps of a lane of another
 * kind the rhythm is taken; what the lane plays stays. */
export function pasteSteps(): void {
  const { clipboard, selection, cursor, edit, select } = app();
  const { clip, lane } = here();
  const start = selection[0] ?? cursor;
  const reach = (own: Lane) => clipboard.steps.map((_, i) => start + i).filter((n) => n < placesOf(own));
  const own = laneOf(app());
  if (!own || !clipboard.steps.length) return;
  void edit((now) => {
    const there = laneIn(now, clip, lane);
    const steps = there ? reach(there).map((n) => n + 1) : [];
    if (!there || !steps.length) return [];
    const content = clipboard.steps.slice(0, steps.length);
    return [{ op: "steps.write", clip, lane, steps, content, loose: clipboard.kind !== there.kind }];
  });
  select(reach(own), start);
}

/** Writes the selected steps again right after themselves. */
export function repeatSteps(): void {
  const { selection, edit, select } = app();
  const { clip, lane } = here();
  const own = laneOf(app());
  const [first, last] = [selection[0], selection.at(-1)];
  if (!own || first === undefined || last === undefined) return;
  const after = (lane: Lane) => selection.map((n) => n + last - first + 1).filter((n) => n < placesOf(lane));
  if (!after(own).length) return;
  void edit((now) => {
    const there = laneIn(now, clip, lane);
    const steps = there ? after(there).map((n) => n + 1) : [];
    if (!there || !steps.length) return [];
    return [
      { op: "steps.write", clip, lane, steps, content: selection.slice(0, steps.length).map((n) => stepsOf(there)[n]) },
    ];
  });
  select(after(own));
}
