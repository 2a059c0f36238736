import { api } from "../../api/client";
import { keep, recalled } from "../../kept";
import { makeLanes } from "../../state/actions";
import { message, useApp } from "../../state/store";

/** Where a lane that was copied waits, for other pieces and pages too. */
const KEY = "agrimony.lane";

/** A lane that was copied, as a starter's document. */
export interface Copied {
  name: string;
  document: unknown;
}

/** The lane that was copied last; null: none. */
export function copied(): Copied | null {
  return recalled<Copied | null>(KEY, null);
}

const said = (problem: unknown) => useApp.getState().set({ error: message(problem) });

/** Copies a lane with its voice, modulators and starter. */
export async function copyLane(lane: string, name: string): Promise<void> {
  const { id, clip } = useApp.getState();
  try {
    const { document } = await api.laneStarter(id, clip, lane, { name, copy: true });
    keep(KEY, JSON.stringify({ name, document }));
    useApp.getState().set({ laneCopied: name });
  } catch (problem) {
    said(problem);
  }
}

/** Pastes the lane that was copied, or asks first where it needs what is not here. */
export async function pasteLane(): Promise<void> {
  const own = copied();
  if (!own) return;
  const { id, clip } = useApp.getState();
  try {
    const fit = await api.fits(id, clip, own.document);
    if (fit.chords || fit.needs.some((n) => !n.there)) useApp.getState().set({ panel: "paste" });
    else await put(own, {});
  } catch (problem) {
    said(problem);
  }
}

/** Puts a copied lane into the clip, with lanes of the clip in place of those that it needs. */
export const put = (own: Copied, needs: Record<string, string>): Promise<boolean> =>
  makeLanes([
    {
      op: "lane.start",
      clip: useApp.getState().clip,
      name: own.name,
      starter: own.document,
      needs,
      plain: true,
      first: true,
    },
  ]);
