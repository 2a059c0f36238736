import type { Lane } from "../api/gen/schema.gen";
import type { LaneKind } from "./kind";
import { chords } from "./chords/chords";
import { control } from "./control/control";
import { layer } from "./layer/layer";
import { line } from "./line/line";
import { notes } from "./notes/notes";
import { phrase } from "./phrase/phrase";
import { pulse } from "./pulse/pulse";

/** All kinds of lanes. To add one, add a row. */
export const laneKinds = {
  line,
  chords,
  phrase,
  pulse,
  control,
  layer,
  notes,
} satisfies { [K in Lane["kind"]]: LaneKind<Extract<Lane, { kind: K }>> };

/** How a lane looks and handles. */
export function kindOf(lane: Lane): LaneKind {
  return laneKinds[lane.kind] as unknown as LaneKind;
}

/** Whether a lane has a sound of its own; others act on one that has. */
export const sounds = (lane: Lane): boolean => !kindOf(lane).acts;
