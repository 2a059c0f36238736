import type { Lane } from "../api/gen/schema.gen";
import type { Instrument, Part, Performance } from "../audio/performance";
import { kindOf, sounds } from "../lanes/kinds";
import { placeOf } from "../ports/routes";
import { turned, useTurning } from "../state/turning";
import { looped } from "../audio/looped";
import { useSheet } from "../state/sheet";
import { timesOf } from "../state/times";
import { clipOf, useApp } from "../state/store";
import type { App } from "../state/app";

/** What a lane sounds with; null: it acts on another's. */
export const instrumentOf = (lane: Lane): Instrument | null =>
  sounds(lane)
    ? {
        id: lane.id,
        sound: turned(lane.id, lane.sound),
        many: kindOf(lane).many,
        route: placeOf(useApp.getState().id, useApp.getState().clip, lane.id),
      }
    : null;

/** What is to be heard of the open clip; null: nothing. */
export function heardOf(s: App): Performance | null {
  const { view, piece } = s;
  const clip = clipOf(s);
  if (!view || !piece || !clip) return null;
  return {
    name: `${s.clip} ${s.tried?.name ?? ""}`,
    atBar: s.atBar,
    tempo: piece.tempo,
    from: 0,
    ticks: view.ticks,
    barTicks: view.barTicks,
    beatTicks: view.beatTicks,
    groove: view.groove,
    beat: piece.beat,
    times: timesOf(s),
    setup: view.setup,
    parts: view.lanes.flatMap((lane, i): Part[] => {
      const doc = clip.lanes[i];
      if (doc?.id !== lane.id) return []; // an answer is under way
      const { id, audible, notes, controls, bends, pressures, wheels } = lane;
      const instrument = instrumentOf(doc);
      const on = kindOf(doc).acts?.(doc).on ?? "";
      return [
        {
          id,
          audible,
          instrument: instrument && { ...instrument, channel: lane.channel, apart: lane.apart },
          on,
          notes,
          controls,
          bends,
          pressures,
          wheels,
        },
      ];
    }),
  };
}

/** The same, made once for each state. */
export function newestOf(state: () => App): () => Performance | null {
  let of: App | null = null;
  let made: Performance | null = null;
  let moved = useTurning.getState().all;
  let stretch = useSheet.getState().loop;
  return () => {
    const now = state();
    const turning = useTurning.getState().all;
    const { loop } = useSheet.getState();
    if (
      turning !== moved ||
      loop !== stretch ||
      now.view !== of?.view ||
      now.piece !== of?.piece ||
      now.words !== of?.words ||
      now.clip !== of?.clip ||
      now.atBar !== of?.atBar
    ) {
      made = heardOf(now);
      if (made && loop && loop.from < made.ticks) made = looped(made, loop.from, Math.min(loop.to, made.ticks));
      of = now;
      moved = turning;
      stretch = loop;
    }
    return made;
  };
}
