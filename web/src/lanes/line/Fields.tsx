import type { LineStep } from "../../api/gen/piece.gen";
import { facts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { setEach } from "../../state/actions";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { CellFields, common, StepHead, Switch } from "../steps/Fields";
import { GlideSwitch, Sliding } from "../steps/Sliding";
import css from "../steps/steps.module.css";
import type { LineLane } from "./line";

const fact = facts.step.line;

/** Exact numbers for one step of a line or many. */
export function Fields({ lane, view, selection }: LaneProps<LineLane> & { selection: number[] }) {
  const degrees = useApp((s) => s.view?.keyNotes.length ?? 7);
  const steps = selection.map((n) => lane.steps[n]).filter((s): s is LineStep => s !== undefined);
  const [first] = steps;
  if (!first) return null;
  return (
    <>
      <StepHead selection={selection} name={first.on ? (view.names[selection[0]!] ?? "") : "rest"} />
      <div className={css.switches} role="group" aria-label="Switches">
        <Switch name="On" field="on" steps={steps} />
        <Switch name="Tie" field="tie" steps={steps} />
        <GlideSwitch steps={steps} />
        <Switch name="Skip" field="skip" steps={steps} />
      </div>
      <div className={css.grid}>
        <PlaceField field="degree" steps={steps} high={degrees} />
        <PlaceField field="octave" steps={steps} />
        <PlaceField field="alter" steps={steps} />
        <CellFields steps={steps} kind="line" />
        <Sliding lane={lane} steps={steps} />
      </div>
    </>
  );
}

function PlaceField({
  field,
  steps,
  high,
}: {
  field: "degree" | "octave" | "alter";
  steps: LineStep[];
  high?: number;
}) {
  const c = common(steps, (s) => s[field]);
  return (
    <NumberField
      id={`f-${field}`}
      fact={fact[field]}
      value={c.value}
      mixed={c.mixed}
      high={high}
      onChange={(v) => setEach(field, () => v)}
    />
  );
}
