import type { PhraseStep } from "../../api/gen/piece.gen";
import { facts } from "../../api/facts";
import { Choice } from "../../controls/Choice";
import { NumberField } from "../../controls/Field";
import { setSelected } from "../../state/actions";
import type { LaneProps } from "../kind";
import { CellFields, common, StepHead, Switch } from "../steps/Fields";
import { GlideSwitch, Sliding } from "../steps/Sliding";
import css from "../steps/steps.module.css";
import type { PhraseLane } from "./phrase";

const fact = facts.step.phrase;

/** Exact numbers for one step of a phrase or many. */
export function Fields({ lane, view, selection }: LaneProps<PhraseLane> & { selection: number[] }) {
  const steps = selection.map((n) => lane.steps[n]).filter((s): s is PhraseStep => s !== undefined);
  const [first] = steps;
  if (!first) return null;
  const number = (field: "offset" | "octave") => {
    const c = common(steps, (s) => s[field]);
    return (
      <NumberField
        id={`f-${field}`}
        fact={fact[field]}
        value={c.value}
        mixed={c.mixed}
        onChange={(v) => setSelected({ [field]: v })}
      />
    );
  };
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
        <label htmlFor="f-play">{fact.play.title}</label>
        <Choice
          id="f-play"
          label="What the step plays"
          value={common(steps, (s) => s.play).value}
          all={fact.play.choices}
          onChange={(play) => setSelected({ play })}
        />
        {number("octave")}
        {number("offset")}
        <span className={css.rest}>
          <Choice
            label="What the offset is counted in"
            value={common(steps, (s) => s.in).value}
            all={fact.in.choices}
            words={{ scale: "scale steps", semitones: "semitones" }}
            onChange={(unit) => setSelected({ in: unit })}
          />
        </span>
        <CellFields steps={steps} kind="phrase" />
        <Sliding lane={lane} steps={steps} written={facts.lane.phrase.glide.fields} />
      </div>
    </>
  );
}
