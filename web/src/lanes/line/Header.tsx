import { Button } from "@mantine/core";
import { addLanes, onChosen } from "../../state/actions";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { OctaveField, PitchedFields } from "../steps/PitchedFields";
import { Move } from "../steps/Tools";
import css from "../steps/steps.module.css";
import type { LineLane } from "./line";

/** What a line sets beside what all lanes do: what is used daily, and the rest. */
export function Daily({ lane }: LaneProps<LineLane>) {
  return <OctaveField lane={lane} />;
}
export function Header({ lane }: LaneProps<LineLane>) {
  return <PitchedFields lane={lane} />;
}

/** Pitch fills: they leave the rhythm alone. */
export function Fills() {
  const patterns = useApp((s) => s.words?.patterns ?? []);
  return (
    <>
      <h3>Pitch – rhythm stays</h3>
      <div className={css.patterns}>
        {patterns.map(({ tones }) => (
          <Button
            key={tones.join()}
            size="compact-xs"
            variant="default"
            onClick={() => onChosen((on) => ({ op: "fill.pattern", ...on, tones }))}
          >
            {tones.join(" · ")}
          </Button>
        ))}
      </div>
      <div className="quiet">Or hold Alt and draw a contour across the ladder.</div>
    </>
  );
}

/** Moves what is selected in pitch. */
export function Tools() {
  return (
    <>
      <Move title="Degree" unit="degree" name="A degree" />
      <Move title="Semitone" unit="semitone" name="A semitone" />
      <Move title="Octave" unit="octave" name="An octave" />
    </>
  );
}

export function Add({ disabled }: { disabled: boolean }) {
  return (
    <Button size="compact-sm" variant="default" disabled={disabled} onClick={() => void addLanes([{ kind: "line" }])}>
      Add a line
    </Button>
  );
}
