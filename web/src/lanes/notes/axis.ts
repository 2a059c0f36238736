import type { Free, Lane as LaneView, Note } from "../../api/gen/view.gen";
import { notesBetween } from "../../canvas/drawing/geometry";
import { lastAt } from "../../sorted";

/** Where a round begins in the clip, by a time in it. */
const seamAt = (free: Free, tick: number): number =>
  free.seams[
    Math.max(
      lastAt(free.seams, (at) => at, tick),
      0,
    )
  ] ?? 0;

/** A time on the lane's own axis, by one in the clip. */
export const onAxis = (free: Free, tick: number): number => free.start + tick - seamAt(free, tick);

/** The other way round, in the round of a time in the clip. */
export const inClip = (free: Free, at: number, beside: number): number => at - free.start + seamAt(free, beside);

/** The sounding note of a free note, by its place: the first; undefined where it is silent. */
export const soundOf = (view: LaneView, place: number): Note | undefined => view.notes.find((n) => n.step === place);

/** The places of the free notes that sound between two times, on the rows between two pitches. */
export function within(view: LaneView, from: number, to: number, low: number, high: number): number[] {
  const found = new Set<number>();
  notesBetween(view, from, to, (note) => {
    if (note.pitch >= low && note.pitch <= high) found.add(note.step);
  });
  return [...found];
}
