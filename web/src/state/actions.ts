import type { Op } from "../api/gen/edit.gen";
import type { Step } from "../api/gen/piece.gen";
import { affected, clipOf, laneIn, laneOf, useApp, type App } from "./store";

/** One op on the open lane. */
export function laneOp(s: App, op: string, more: Partial<Op> = {}): Op {
  return { op, clip: s.clip, lane: s.lane, ...more };
}

/** Changes fields of the selected steps. */
export function setSelected(patch: Partial<Record<keyof Step, unknown>>): void {
  const s = useApp.getState();
  if (!s.selection.length) return;
  void s.edit([laneOp(s, "steps.set", { steps: s.selection.map((n) => n + 1), patch })]);
}

/** Edits the selected steps, building on what they are when the edit's turn comes. */
function editSelected(build: (steps: Step[], chosen: number[]) => Omit<Op, "op" | "clip" | "lane">[]): void {
  const { clip, lane, selection, edit } = useApp.getState();
  if (!selection.length) return;
  void edit((now) => {
    const steps = laneIn(now, clip, lane)?.steps ?? [];
    const chosen = selection.filter((n) => n < steps.length);
    return chosen.length ? build(steps, chosen).map((part): Op => ({ op: "steps.set", clip, lane, ...part })) : [];
  });
}

/** Changes a field of each selected step to a value of its own. */
export function setEach(field: keyof Step, value: (step: Step) => unknown): void {
  editSelected((steps, chosen) => chosen.map((n) => ({ steps: [n + 1], patch: { [field]: value(steps[n]) } })));
}

/** Turns a yes-or-no field of the selected steps over: on unless all have it. */
export function toggle(has: (step: Step) => boolean, on: Partial<Record<keyof Step, unknown>>, off: Partial<Record<keyof Step, unknown>>): void {
  editSelected((steps, chosen) => [{ steps: chosen.map((n) => n + 1), patch: chosen.every((n) => has(steps[n])) ? off : on }]);
}

/** Makes the open lane a step longer or shorter. */
export function resizeBy(by: number): void {
  const { clip, lane, edit } = useApp.getState();
  void edit((now) => {
    const count = (laneIn(now, clip, lane)?.steps.length ?? 0) + by;
    return count >= 1 && count <= (now.words?.maxSteps ?? 256) ? [{ op: "lane.resize", clip, lane, by: count }] : [];
  });
}

/** Runs an op on the selected steps, or on all when none is selected. */
export function onSteps(op: string, more: Partial<Op> = {}): void {
  const s = useApp.getState();
  if (!laneOf(s)) return;
  void s.edit([laneOp(s, op, { steps: affected(s), ...more })]);
}

export function setLane(lane: string, patch: Record<string, unknown>): void {
  const s = useApp.getState();
  void s.edit([{ op: "lane.set", clip: s.clip, lane, patch }]);
}

/** Adds a lane and opens it. */
export async function addLane(): Promise<void> {
  const s = useApp.getState();
  if (!(await s.edit([{ op: "lane.add", clip: s.clip }]))) return;
  const lanes = clipOf(useApp.getState())?.lanes;
  if (lanes?.length) s.openLane(lanes[lanes.length - 1].id);
}

export function setPiece(patch: Record<string, unknown>): void {
  void useApp.getState().edit([{ op: "piece.set", patch }]);
}

export function setClip(patch: Record<string, unknown>): void {
  const s = useApp.getState();
  void s.edit([{ op: "clip.set", clip: s.clip, patch }]);
}

export function copySteps(): void {
  const s = useApp.getState();
  const lane = laneOf(s);
  if (lane) s.set({ clipboard: affected(s).map((n) => lane.steps[n - 1]) });
}

/** Pastes from the cursor on, as far as the lane reaches. */
export function pasteSteps(): void {
  const s = useApp.getState();
  const lane = laneOf(s);
  if (!lane || !s.clipboard.length) return;
  const start = s.selection[0] ?? s.cursor;
  const steps = s.clipboard.map((_, i) => start + i + 1).filter((n) => n <= lane.steps.length);
  void s.edit([laneOp(s, "steps.write", { steps, content: s.clipboard.slice(0, steps.length) })]);
  s.select(steps.map((n) => n - 1), start);
}

/** Writes the selected steps again right after themselves. */
export function repeatSteps(): void {
  const s = useApp.getState();
  const lane = laneOf(s);
  if (!lane || !s.selection.length) return;
  const last = s.selection[s.selection.length - 1];
  const steps = s.selection.map((n) => n + last - s.selection[0] + 2).filter((n) => n <= lane.steps.length);
  if (!steps.length) return;
  const content = s.selection.slice(0, steps.length).map((n) => lane.steps[n]);
  void s.edit([laneOp(s, "steps.write", { steps, content })]);
  s.select(steps.map((n) => n - 1));
}
