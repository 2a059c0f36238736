import type { Clip as ClipDoc } from "./gen/piece.gen";
import type { Brief, PieceState, Shown, State } from "./gen/server.gen";
import { merge, MergeError } from "./merge";

/** A piece of which the clip that is open and some others are whole, and the rest known by name. */
export type HeldPiece = PieceState;

export const isWhole = (clip: ClipDoc | Brief): clip is ClipDoc => "lanes" in clip;

/** The document of a clip, where one has it. */
export const wholeClip = (piece: HeldPiece | null | undefined, id: string): ClipDoc | undefined =>
  piece?.clips.filter(isWhole).find((c) => c.id === id);

/** A piece in which clips are whole that were so before: an edit of one may still be on its way. */
export const wholeAsBefore = (piece: HeldPiece, before: HeldPiece | null): HeldPiece => ({
  ...piece,
  clips: piece.clips.map((c) => (isWhole(c) ? c : (wholeClip(before, c.id) ?? c))),
});

/** What an answer shows, which may stand on what was shown before. */
export function shownBy(answer: State, held: Shown | null): Shown {
  if (!answer.since) {
    const { piece, view, trouble, thumb } = answer as Shown;
    return { piece, view, trouble, thumb };
  }
  if (!held) throw new MergeError("The answer tells what has changed, but nothing is held.");
  return merge(held, answer.since);
}
