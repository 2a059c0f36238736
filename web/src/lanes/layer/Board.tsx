import { many } from "../../words";
import { clipOf, useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import css from "../steps/steps.module.css";
import { goToOriginal } from "./gestures";
import type { LayerLane } from "./layer";

/** What the layer is of, and the way there. */
export function Board({ lane, view }: LaneProps<LayerLane>) {
  const original = useApp(clipOf)?.lanes.find((l) => l.id === lane.of);
  if (!original) return null;
  return (
    <div className={css.tools}>
      <p style={{ margin: 0 }}>
        {lane.name} plays {many(view.notes.length, "note")} of {original.name}. Edit {original.name}, and the layer
        follows.
      </p>
      <div>
        <button onClick={() => goToOriginal(lane)}>Go to {original.name}</button>
      </div>
    </div>
  );
}
