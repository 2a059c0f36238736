import { playPosition, sound } from "../state/player";
import type { Lane } from "../api/gen/schema.gen";
import { lastAt } from "../sorted";
import { freeNotes } from "../api/free";
import { lengthOfNew, nearest, onAxis, selectNewest } from "../lanes/grid";
import { kindOf } from "../lanes/kinds";
import { laneOf, laneViewOf, placesOf, useApp } from "../state/store";
import { useEnter } from "./state";

const app = useApp.getState;

/** The keys that are down, and the step, or the time, that what they give is for. */
const hand = { down: new Set<number>(), step: 0, velocity: 0 };

/** Where the next note goes on the axis of a lane of free notes: in time on the line of the grid that is
 * nearest to where the loop is, or else after what was played last, or after what is selected. */
export function freeNow(lane: Lane): number {
  const { inTime, next } = useEnter.getState();
  const { playing, tick } = playPosition();
  const { view, selection } = app();
  const free = laneViewOf(app())?.free;
  if (inTime && playing && view && free) return Math.max(nearest(onAxis(free, tick % view.ticks)), 0);
  const notes = freeNotes(lane) ?? [];
  const chosen = selection.flatMap((n) => notes[n] ?? []);
  return next ?? Math.max(free?.start ?? 0, ...(chosen.length ? chosen : notes).map((n) => n.at + n.length));
}

/** The step, or the time, that an entry is for: the cursor's, or in time the one nearest to where the
 * loop is. */
function stepNow(lane: Lane): number {
  if (freeNotes(lane)) return freeNow(lane);
  const { inTime } = useEnter.getState();
  const { playing, tick } = playPosition();
  const { view } = app();
  const own = laneViewOf(app());
  if (!inTime || !playing || !view || !own) return Math.min(app().cursor, placesOf(lane) - 1);
  const near = (tick + own.stepTicks / 2) % view.ticks;
  return (
    own.slots[
      Math.max(
        lastAt(own.slotAt, (at) => at, near),
        0,
      )
    ] ?? 0
  );
}

/** Writes what was played into a step, and step by step walks on. */
function enter(lane: Lane, step: number, pitches: readonly number[], more: { tie?: boolean; velocity?: number }): void {
  const { clip, edit, select } = app();
  if (freeNotes(lane)) {
    const length = lengthOfNew();
    void edit([
      { op: "notes.enter", clip, lane: lane.id, step: 1, pitches: [...pitches], ...more, at: step, length },
    ]).then((made) => made && pitches.length && selectNewest(clip, lane.id, pitches.length));
    if (!useEnter.getState().inTime) useEnter.setState({ next: step + length });
    return;
  }
  void edit([{ op: "notes.enter", clip, lane: lane.id, step: step + 1, pitches: [...pitches], ...more }]);
  const next = useEnter.getState().inTime ? step : (step + 1) % placesOf(lane);
  select([next], next);
}

/** A key goes down: heard at once, and entered, where the lane may sound several notes when
 * the last key that is held comes up. Velocity is 1..127; 0: the step's own. */
export function press(pitch: number, velocity = 0): void {
  const lane = laneOf(app());
  const { together, gathered, set } = useEnter.getState();
  if (!lane) return;
  if (together) {
    const next = gathered.includes(pitch) ? gathered.filter((p) => p !== pitch) : [...gathered, pitch];
    set({ gathered: next });
    sound(lane, next);
    return;
  }
  sound(lane, [pitch]);
  if (!kindOf(lane).many) {
    enter(lane, stepNow(lane), [pitch], velocity ? { velocity } : {});
    return;
  }
  if (!hand.down.size) Object.assign(hand, { step: stepNow(lane), velocity: 0 });
  hand.down.add(pitch);
  hand.velocity = Math.max(hand.velocity, velocity);
  set({ gathered: [...new Set([...gathered, pitch])] });
}

/** A key comes up. */
export function release(pitch: number): void {
  if (!hand.down.delete(pitch) || hand.down.size) return;
  const lane = laneOf(app());
  const { gathered, set } = useEnter.getState();
  set({ gathered: [] });
  if (lane && gathered.length) enter(lane, hand.step, gathered, hand.velocity ? { velocity: hand.velocity } : {});
}

/** A key is struck and let go. */
export function strike(pitch: number): void {
  press(pitch);
  release(pitch);
}

/** Enters the notes that were gathered one by one. */
export function enterGathered(): void {
  const lane = laneOf(app());
  const { gathered, set } = useEnter.getState();
  if (!lane || !gathered.length) return;
  enter(lane, stepNow(lane), gathered, {});
  set({ gathered: [], together: false });
}

/** Enters a rest, or lets the step before last through this one. */
function enterSilent(tie: boolean): void {
  const lane = laneOf(app());
  if (!lane) return;
  if (freeNotes(lane) && !tie) useEnter.setState({ next: freeNow(lane) + lengthOfNew() });
  else enter(lane, stepNow(lane), [], tie ? { tie } : {});
}

export const rest = (): void => enterSilent(false);
export const tie = (): void => enterSilent(true);

/** Puts the keyboard away. */
export function closeKeyboard(): void {
  hand.down.clear();
  useEnter.getState().set({ open: false, gathered: [], together: false, next: null });
}
