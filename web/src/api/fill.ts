import type { Clip as ClipDoc, Piece } from "./gen/piece.gen";
import type { ClipState, PieceState, Same, ViewState } from "./gen/server.gen";
import type { Clip as ClipView } from "./gen/view.gen";

interface Named {
  id: string;
}

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

/** The piece that an answer tells of, with the one held before. */
export function fillPiece(answer: PieceState, held: Piece | null): Piece {
  const clips = answer.clips.map((clip: ClipState | Same): ClipDoc | Same => {
    if (isSame(clip)) return clip;
    return { ...clip, lanes: fill(clip.lanes, held?.clips.find((c) => c.id === clip.id)?.lanes ?? []) };
  });
  return { ...answer, clips: fill(clips, held?.clips ?? []) };
}

/** The view that an answer tells of, with the one held before. */
export function fillView(answer: ViewState | null, held: ClipView | null): ClipView | null {
  return answer && { ...answer, lanes: fill(answer.lanes, held?.id === answer.id ? held.lanes : []) };
}
