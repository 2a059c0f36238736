import type { PulseStep } from "../../api/gen/piece.gen";
import type { LaneProps } from "../kind";
import { CellFields, StepHead, Switch } from "../steps/Fields";
import css from "../steps/steps.module.css";
import type { PulseLane } from "./pulse";

/** Exact numbers for one hit or many. */
export function Fields({ lane, view, selection }: LaneProps<PulseLane> & { selection: number[] }) {
  const steps = selection.map((n) => lane.steps[n]).filter((s): s is PulseStep => s !== undefined);
  const [first] = steps;
  if (!first) return null;
  return (
    <>
      <StepHead selection={selection} name={first.on ? (view.ladder[0]?.name ?? "") : "rest"} />
      <div className={css.switches} role="group" aria-label="Switches">
        <Switch name="On" field="on" steps={steps} />
        <Switch name="Tie" field="tie" steps={steps} />
        <Switch name="Skip" field="skip" steps={steps} />
      </div>
      <div className={css.grid}>
        <CellFields steps={steps} kind="pulse" />
      </div>
    </>
  );
}
