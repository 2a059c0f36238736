import { many } from "../../words";
import type { Cell } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";
import { facts, stepFacts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { TextBox } from "../../controls/TextBox";
import { setEach, setSelected, toggle } from "../../state/actions";
import css from "./steps.module.css";

/** What some steps have in common in a field; mixed where they differ. */
export function common<S, T>(steps: readonly S[], read: (s: S) => T): { value: T; mixed: boolean } {
  const value = read(steps[0]!);
  return { value, mixed: steps.some((s) => read(s) !== value) };
}

/** Which steps the fields below are of, and what a single one is called. */
export function StepHead({ selection, name }: { selection: number[]; name: string }) {
  const [first = 0] = selection;
  return (
    <div className={css.head}>
      <b>{selection.length === 1 ? `Step ${first + 1}` : many(selection.length, "step")}</b>
      <span className="mono" data-testid="step-name">
        {selection.length === 1 ? name : ""}
      </span>
    </div>
  );
}

/** A yes-or-no field of the selected steps. */
export function Switch({ name, field, steps }: { name: string; field: "on" | "tie" | "skip"; steps: readonly Cell[] }) {
  return (
    <button
      aria-pressed={steps.every((s) => s[field])}
      onClick={() => toggle((s) => s[field], { [field]: true }, { [field]: false })}
    >
      {name}
    </button>
  );
}

/** The numbers that steps of every kind have. */
export function CellFields({ steps, kind }: { steps: readonly Cell[]; kind: Lane["kind"] }) {
  const fact = stepFacts(kind);
  const { of: ofFact } = facts.step.line.rounds.fields;
  const of = common(steps, (s) => s.rounds?.of ?? 1);
  return (
    <>
      {(["velocity", "gate", "chance", "ratchet", "nudge"] as const).map((field) => {
        const c = common(steps, (s) => s[field]);
        const own = fact[field];
        if (!own) return null;
        return (
          <NumberField
            key={field}
            id={`f-${field}`}
            fact={own}
            value={c.value}
            mixed={c.mixed}
            onChange={(v) => setSelected({ [field]: v })}
          />
        );
      })}
      <NumberField
        id="f-of"
        fact={{ ...ofFact, title: "Of rounds" }}
        label="Of so many rounds"
        value={of.value}
        mixed={of.mixed}
        onChange={(n) => setEach("rounds", (s) => withRounds(s, n))}
      />
      <span>plays in</span>
      <RoundsOn steps={steps} />
    </>
  );
}

/** The step's rounds out of so many others; null where it plays in all. */
function withRounds(step: Cell, of: number): Cell["rounds"] {
  if (of === 1) return null;
  const on = (step.rounds?.on ?? [1]).filter((r) => r <= of);
  return { of, on: on.length ? on : [1] };
}

function RoundsOn({ steps }: { steps: readonly Cell[] }) {
  const c = common(steps, (s) => (s.rounds?.on ?? []).join(" "));
  return (
    <TextBox
      label="Plays in rounds"
      className="mono"
      disabled={!steps.every((s) => s.rounds)}
      value={c.mixed ? "" : c.value}
      placeholder={c.mixed ? "mixed" : "all"}
      onChange={(text) => {
        const on = text
          .split(/[\s,]+/)
          .filter(Boolean)
          .map(Number);
        setEach("rounds", (s) => ({ of: s.rounds?.of ?? 1, on }));
      }}
    />
  );
}
