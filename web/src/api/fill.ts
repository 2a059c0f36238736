import type { Clip as ClipDoc, Piece } from "./gen/piece.gen";
import type { Brief, ClipState, PieceState, Same, ViewState } from "./gen/server.gen";
import type { Lane } from "./gen/schema.gen";
import type { Clip as ClipView, Lane as LaneView, Note } from "./gen/view.gen";

interface Named {
  id: string;
}

/** A piece of which the clips that were shown are whole, and others known by name. */
export type HeldPiece = Omit<Piece, "clips"> & { clips: (ClipDoc | Brief)[] };

export const isWhole = (clip: ClipDoc | Brief): clip is ClipDoc => "lanes" in clip;

/** The document of a clip, where one has it. */
export const wholeClip = (piece: HeldPiece | null | undefined, id: string): ClipDoc | undefined =>
  piece?.clips.filter(isWhole).find((c) => c.id === id);

const isSame = (item: object): item is Same => "same" in item && item.same === true;

/** Puts what one already holds where an answer says it is the same. What has not
 * changed keeps its identity, and is not drawn again. */
function fill<T extends Named>(items: (T | Same)[], held: readonly T[]): T[] {
  return items.map((item) => {
    if (!isSame(item)) return item;
    const own = held.find((h) => h.id === item.id);
    if (!own) throw new Error(`The answer says that ${item.id} is the same, but it is not here.`);
    return own;
  });
}

/** The piece that an answer tells of, with the one held before. Where that is the same
 * version, what one has whole stays so: an edit may still be under way in it. */
export function fillPiece(
  answer: PieceState,
  held: HeldPiece | null,
  sameVersion: boolean,
  filled: (lane: Lane, was: Lane | undefined) => Lane = (lane) => lane,
): HeldPiece {
  const clips = answer.clips.map((clip: ClipState | Same | Brief): ClipDoc | Same | Brief => {
    if (isSame(clip)) return clip;
    const whole = wholeClip(held, clip.id);
    if ("brief" in clip) return (sameVersion && whole) || clip;
    return {
      ...clip,
      lanes: fill(clip.lanes, whole?.lanes ?? []).map((l) =>
        filled(
          l,
          whole?.lanes.find((w) => w.id === l.id),
        ),
      ),
    };
  });
  return { ...answer, clips: fill(clips, held?.clips ?? []) };
}

/** Notes of which one holds the first and the last already. */
interface SomeNotes {
  held: [number, number];
  notes: Note[];
}

/** A lane's view with all its notes. */
function wholeView(lane: LaneView, held: readonly LaneView[]): LaneView {
  if (Array.isArray(lane.notes)) return lane;
  const some = lane.notes as SomeNotes;
  const before = held.find((h) => h.id === lane.id)?.notes ?? [];
  const notes = [...before.slice(0, some.held[0]), ...some.notes, ...before.slice(before.length - some.held[1])];
  return { ...lane, notes };
}

/** The view that an answer tells of, with the one held before. */
export function fillView(answer: ViewState | null, held: ClipView | null): ClipView | null {
  const before = held?.id === answer?.id ? (held?.lanes ?? []) : [];
  return answer && { ...answer, lanes: fill(answer.lanes, before).map((l) => wholeView(l, before)) };
}
