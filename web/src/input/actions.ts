import { hold, move, playPosition, sound, ticksSince } from "../state/player";
import type { HandMove } from "../audio/voices";
import type { Lane } from "../api/gen/schema.gen";
import { lastAt } from "../sorted";
import { freeNotes } from "../api/free";
import { lengthOfNew, nearest, onAxis, selectNewest } from "../lanes/grid";
import { kindOf } from "../lanes/kinds";
import { laneOf, laneViewOf, placesOf, useApp } from "../state/store";
import { useEnter } from "./state";

const app = useApp.getState;

/** What one hand does. */
const hand = {
  /** The keys that are down, by their pitch. */
  down: new Map<number, { letGo: () => void; at: number; since: number; velocity: number }>(),
  /** What has been let go of the notes that are played together, in a lane of free notes in time. */
  played: [] as { pitch: number; at: number; length: number; velocity: number }[],
  /** The step, or the time, that the keys which are down are for, and how hard the hardest was struck. */
  step: 0,
  velocity: 0,
};

/** Whether what is played is written: only where one sees it. */
const writes = (): boolean => useEnter.getState().write && useEnter.getState().open;

/** How hard a key of the screen or the computer is struck. */
const USUAL = 96;
const SUSTAIN = 64;
/** The most keys that are held at once. */
const MOST = 24;

/** Where the next note goes on the axis of a lane of free notes: in time on the line of the grid that is
 * nearest to where the loop is, or else after what was played last, or after what is selected. */
export function freeNow(lane: Lane, late = 0): number {
  const { inTime, next } = useEnter.getState();
  const { playing, tick } = playPosition();
  const { view, selection } = app();
  const free = laneViewOf(app())?.free;
  if (inTime && playing && view && free) return Math.max(nearest(onAxis(free, within(tick - late, view.ticks))), 0);
  const notes = freeNotes(lane) ?? [];
  const chosen = selection.flatMap((n) => notes[n] ?? []);
  return next ?? Math.max(free?.start ?? 0, ...(chosen.length ? chosen : notes).map((n) => n.at + n.length));
}

/** A place in the loop, whatever was taken from it or added. */
const within = (tick: number, ticks: number): number => ((tick % ticks) + ticks) % ticks;

/** The step, or the time, that an entry is for: the cursor's, or in time the one nearest to where the
 * loop is. */
function stepNow(lane: Lane, late = 0): number {
  if (freeNotes(lane)) return freeNow(lane, late);
  const { inTime } = useEnter.getState();
  const { playing, tick } = playPosition();
  const { view } = app();
  const own = laneViewOf(app());
  if (!inTime || !playing || !view || !own) return Math.min(app().cursor, placesOf(lane) - 1);
  const near = within(tick - late + own.stepTicks / 2, view.ticks);
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

/** A key goes down: heard as long as it is held, and entered, where that is wanted; where the lane may sound several
 * notes when the last key that is held comes up. Velocity is 1..127; 0: the step's own. It is written where one heard the
 * loop stand at the time of its message, in ms of the page's clock. */
export function press(pitch: number, velocity = 0, time = performance.now()): void {
  const lane = laneOf(app());
  const { together, gathered, set } = useEnter.getState();
  const write = writes();
  if (!lane || hand.down.has(pitch)) return;
  if (write && together) {
    const next = gathered.includes(pitch) ? gathered.filter((p) => p !== pitch) : [...gathered, pitch];
    set({ gathered: next });
    sound(lane, next);
    return;
  }
  if (hand.down.size >= MOST) {
    app().set({ error: `${MOST} keys are held at once at the most; this one is left out.` });
    return;
  }
  const first = !hand.down.size;
  if (first) hand.played = []; // what was begun while Write was on is not written any more
  const late = ticksSince(time);
  hand.down.set(pitch, {
    letGo: hold(lane, pitch, velocity || USUAL),
    at: write && freeNotes(lane) ? freeNow(lane, late) : 0,
    since: playPosition().tick - late,
    velocity,
  });
  if (!write) return;
  if (!kindOf(lane).many) {
    enter(lane, stepNow(lane, late), [pitch], velocity ? { velocity } : {});
    return;
  }
  if (first) Object.assign(hand, { step: stepNow(lane, late), velocity: 0 });
  hand.velocity = Math.max(hand.velocity, velocity);
  set({ gathered: [...new Set([...gathered, pitch])] });
}

/** A key comes up, at the time of its message in ms of the page's clock. */
export function release(pitch: number, time = performance.now()): void {
  const key = hand.down.get(pitch);
  if (!key) return;
  hand.down.delete(pitch);
  key.letGo();
  const lane = laneOf(app());
  const { gathered, inTime, set } = useEnter.getState();
  const { playing, tick } = playPosition();
  const { view } = app();
  if (!writes() || !lane || !gathered.length) return;
  if (freeNotes(lane) && inTime && playing && view) {
    const length = Math.max(Math.round(within(tick - ticksSince(time) - key.since, view.ticks)), 1);
    hand.played.push({ pitch, at: key.at, length, velocity: key.velocity });
  }
  if (hand.down.size) return;
  set({ gathered: [] });
  if (hand.played.length) enterPlayed(lane);
  else enter(lane, hand.step, gathered, hand.velocity ? { velocity: hand.velocity } : {});
}

/** Writes what was played into a lane of free notes, each note as long and as loud as it was held: one edit. */
function enterPlayed(lane: Lane): void {
  const { clip, edit } = app();
  const notes = hand.played;
  hand.played = [];
  void edit(
    notes.map(({ pitch, at, length, velocity }) => ({
      op: "notes.enter" as const,
      clip,
      lane: lane.id,
      step: 1,
      pitches: [pitch],
      at,
      length,
      ...(velocity ? { velocity } : {}),
    })),
  ).then((made) => made && selectNewest(clip, lane.id, notes.length));
}

/** Moves the wheel (-8192..8191), a controller or the pressure (0..127) of what is held. */
export function moveHeld(what: HandMove): void {
  const lane = laneOf(app());
  if (lane) move(lane, what);
}

/** Lets go of all keys, as when the keyboard that holds them is gone. */
export function releaseAll(): void {
  hand.down.forEach((_, pitch) => release(pitch));
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
  if (!lane || !writes()) return;
  if (freeNotes(lane) && !tie) useEnter.setState({ next: freeNow(lane) + lengthOfNew() });
  else enter(lane, stepNow(lane), [], tie ? { tie } : {});
}

export const rest = (): void => enterSilent(false);
export const tie = (): void => enterSilent(true);

/** Puts the keyboard away. */
export function closeKeyboard(): void {
  for (const { letGo } of hand.down.values()) letGo();
  hand.down.clear();
  hand.played = [];
  for (const what of [{ wheel: 0 }, { pressure: 0 }, { controller: SUSTAIN, value: 0 }]) moveHeld(what);
  useEnter.getState().set({ open: false, gathered: [], together: false, next: null });
}
