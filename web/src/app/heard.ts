import type { Lane } from "../api/gen/schema.gen";
import type { Instrument, Part, Performance } from "../audio/performance";
import { kindOf, sounds } from "../lanes/kinds";
import { clipOf, type App } from "../state/store";

/** What a lane sounds with; null: it acts on another's. */
export const instrumentOf = (lane: Lane): Instrument | null =>
  sounds(lane) ? { id: lane.id, sound: lane.sound, many: kindOf(lane).many } : null;

/** What is to be heard of the open clip; null: nothing. */
export function heardOf(s: App): Performance | null {
  const { view, piece, words } = s;
  const clip = clipOf(s);
  if (!view || !piece || !clip) return null;
  return {
    tempo: piece.tempo,
    ticks: view.ticks,
    barTicks: view.barTicks,
    beatTicks: view.beatTicks,
    groove: view.groove,
    beat: piece.beat,
    portamento: words?.portamento ?? [],
    parts: view.lanes.flatMap((lane, i): Part[] => {
      const doc = clip.lanes[i];
      if (doc?.id !== lane.id) return []; // an answer is under way
      const { id, audible, notes, controls, bends, pressures } = lane;
      const on = kindOf(doc).acts?.(doc).on ?? "";
      return [{ id, audible, instrument: instrumentOf(doc), on, notes, controls, bends, pressures }];
    }),
  };
}

/** The same, made once for each state. */
export function newestOf(state: () => App): () => Performance | null {
  let of: App | null = null;
  let made: Performance | null = null;
  return () => {
    const now = state();
    if (now.view !== of?.view || now.piece !== of?.piece || now.words !== of?.words || now.clip !== of?.clip) {
      made = heardOf(now);
      of = now;
    }
    return made;
  };
}
