import { many } from "../../words";
import { Button } from "@mantine/core";
import { onChosen } from "../../state/actions";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { Move } from "../steps/Tools";
import css from "../steps/steps.module.css";
import { writeOut } from "./actions";
import type { PhraseLane } from "./phrase";

const shapes = { climb: "Climb and fall back", stab: "Stab on one", leap: "Leap every fourth" };

/** Fills of what the steps play: they leave the rhythm alone. */
export function Fills() {
  return (
    <>
      <h3>Plays – rhythm stays</h3>
      <div className={css.patterns}>
        {Object.entries(shapes).map(([shape, name]) => (
          <Button
            key={shape}
            size="compact-xs"
            variant="default"
            onClick={() => onChosen((on) => ({ op: "fill.plays", ...on, shape }))}
          >
            {name}
          </Button>
        ))}
      </div>
    </>
  );
}

/** Moves what the selected steps play, and writes the phrase out. */
export function Tools({ lane }: LaneProps<PhraseLane>) {
  const bars = useApp((s) => (s.view ? Math.max(1, Math.round(s.view.ticks / s.view.barTicks)) : 1));
  return (
    <>
      <Move title="Offset" unit="degree" name="A scale step" />
      <Move title="Octave" unit="octave" name="An octave" />
      <button
        title={`As ordinary lines that sound the same for ${many(bars, "bar")}; the phrase is muted`}
        onClick={() => writeOut(lane.id, bars)}
      >
        Write out as notes
      </button>
    </>
  );
}
