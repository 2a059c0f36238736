import type { ControlStep } from "../../api/gen/piece.gen";
import { Choice } from "../../controls/Choice";
import { facts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { setSelected } from "../../state/actions";
import type { LaneProps } from "../kind";
import { CellFields, common, StepHead, Switch } from "../steps/Fields";
import css from "../steps/steps.module.css";
import { rangeOf } from "./band";
import type { ControlLane } from "./control";

const fact = facts.step.control;
const wordOf = (s: ControlStep) => (typeof s.shape === "string" ? s.shape : "curve");
const curveOf = (s: ControlStep) => (typeof s.shape === "string" ? 0 : s.shape.curve);

/** Exact numbers for one step of a control lane or many. */
export function Fields({ lane, selection }: LaneProps<ControlLane> & { selection: number[] }) {
  const steps = selection.map((n) => lane.steps[n]).filter((s): s is ControlStep => s !== undefined);
  const [first] = steps;
  if (!first) return null;
  const [low, high] = rangeOf(lane);
  const value = common(steps, (s) => s.value);
  const shape = common(steps, wordOf);
  const curve = common(steps, curveOf);
  return (
    <>
      <StepHead selection={selection} name={first.on ? String(first.value) : "as before"} />
      <div className={css.switches} role="group" aria-label="Switches">
        <Switch name="On" field="on" steps={steps} />
        <Switch name="Skip" field="skip" steps={steps} />
      </div>
      <div className={css.grid}>
        <NumberField
          id="f-value"
          fact={{ ...fact.value, low, high }}
          value={value.value}
          mixed={value.mixed}
          onChange={(v) => setSelected({ on: true, value: v })}
        />
        <label htmlFor="f-shape" title={fact.shape.doc}>
          Goes on
        </label>
        <Choice
          id="f-shape"
          label="How it goes to the next value"
          value={shape.value}
          all={["hold", "line", "curve"]}
          words={{ hold: "holds" }}
          onChange={(word) => setSelected({ shape: word === "curve" ? { curve: curve.value || 50 } : word })}
        />
        {shape.value === "curve" && (
          <NumberField
            id="f-curve"
            fact={{ title: "Curve", doc: "0 straight, above starts slowly, below starts fast.", low: -100, high: 100 }}
            value={curve.value}
            mixed={curve.mixed}
            onChange={(v) => setSelected({ shape: { curve: v } })}
          />
        )}
        <CellFields steps={steps} kind="control" />
      </div>
    </>
  );
}
