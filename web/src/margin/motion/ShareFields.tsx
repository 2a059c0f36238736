import { freeNotes } from "../../api/free";
import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { laneFact } from "../../api/facts";
import { NumberBox } from "../../controls/NumberBox";
import { setLane } from "../../state/actions";
import { placesOf, useApp } from "../../state/store";
import { sounds } from "../../lanes/kinds";
import css from "./motion.module.css";

const fact = laneFact.share.fields;

/** How far a lane takes part in the groove; its own groove taken, and the groove printed. */
export function ShareFields({ lane, view }: { lane: Lane; view: LaneView }) {
  const { share } = view;
  const set = (part: Record<string, number>) => setLane(lane.id, { share: { ...share, ...part } });
  const { clip, edit } = useApp.getState();
  return (
    <div className={css.part} role="group" aria-label="Share of the groove">
      <h3>
        Share of the groove
        {"ownShare" in lane && (
          <button
            aria-pressed={lane.ownShare}
            title="Whether it takes part in the groove as the lane that it plays does, or in its own way"
            onClick={() => setLane(lane.id, { share: lane.ownShare ? null : share })}
          >
            {lane.ownShare ? "Its own" : "As its original"}
          </button>
        )}
      </h3>
      <div className={css.grid}>
        <span title={fact.timing.doc}>Timing %</span>
        <NumberBox
          label={`Share of timing of ${lane.name}`}
          value={share.timing}
          low={0}
          high={100}
          onChange={(timing) => set({ timing })}
        />
        <span title={fact.velocity.doc}>velocity %</span>
        <NumberBox
          label={`Share of velocity of ${lane.name}`}
          value={share.velocity}
          low={0}
          high={100}
          onChange={(velocity) => set({ velocity })}
        />
      </div>
      {sounds(lane) && (
        <div className={css.foot}>
          <button
            title="Makes a groove template of where this lane's notes fall and how hard they are struck"
            onClick={() => void edit([{ op: "groove.take", clip, lane: lane.id }])}
          >
            Take its groove
          </button>
          {!freeNotes(lane) && (
            <button
              disabled={!placesOf(lane)}
              title="Writes the groove into this lane's nudges and velocities, and sets its share to 0"
              onClick={() => void edit([{ op: "groove.print", clip, lane: lane.id }])}
            >
              Print the groove
            </button>
          )}
        </div>
      )}
    </div>
  );
}
