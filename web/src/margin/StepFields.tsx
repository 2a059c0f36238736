import type { Lane as LaneDoc, Step } from "../api/gen/piece.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { NumberBox } from "../app/NumberBox";
import { setEach, setLane, setSelected, toggle } from "../state/actions";
import { useApp } from "../state/store";
import { Choice } from "../sheet/LaneHeader";
import css from "./Margin.module.css";

interface Props {
  lane: LaneDoc;
  view: LaneView;
  selection: number[];
}

/** What the selected steps have in common in a field; null where they differ. */
function common<T>(steps: Step[], read: (s: Step) => T): { value: T; mixed: boolean } {
  const value = read(steps[0]);
  return { value, mixed: steps.some((s) => read(s) !== value) };
}

interface NumberField {
  label: string;
  name: string;
  low: number;
  high: number;
  read: (s: Step) => number;
  patch: (v: number) => Partial<Record<keyof Step, unknown>>;
}

const plain = (label: string, name: "degree" | "octave" | "alter" | "velocity" | "gate" | "chance" | "ratchet" | "nudge", low: number, high: number): NumberField => ({
  label, name, low, high, read: (s) => s[name], patch: (v) => ({ [name]: v }),
});

/** Exact numbers for one step or many. */
export function StepFields({ lane, view, selection }: Props) {
  const degrees = useApp((s) => s.view?.keyNotes.length ?? 7);
  const words = useApp((s) => s.words);
  const steps = selection.map((n) => lane.steps[n]).filter((s): s is Step => s !== undefined);
  if (!steps.length) return null;
  const one = steps.length === 1;
  const fields: NumberField[] = [
    plain("Degree", "degree", 1, degrees), plain("Octave", "octave", -4, 4),
    plain("Alter", "alter", -11, 11), plain("Velocity", "velocity", 1, 127),
    plain("Gate %", "gate", 1, 400), plain("Chance %", "chance", 0, 100),
    plain("Ratchet", "ratchet", 1, 8), plain("Nudge %", "nudge", -50, 50),
  ];
  const glide = common(steps, (s) => s.glide?.time ?? 0);
  const curve = common(steps, (s) => s.glide?.curve ?? 0);
  const from = common(steps, (s) => s.glide?.from ?? null);
  const hasGlide = steps.every((s) => s.glide != null);
  const of = common(steps, (s) => s.rounds?.of ?? 1);
  return (
    <>
      <div className={css.head}>
        <b>{one ? `Step ${selection[0] + 1}` : `${steps.length} steps`}</b>
        <span className="mono" data-testid="step-name">{one ? (steps[0].on ? view.names[selection[0]] : "rest") : ""}</span>
      </div>
      <div className={css.switches} role="group" aria-label="Switches">
        <button aria-pressed={steps.every((s) => s.on)} onClick={() => toggle((s) => s.on, { on: true }, { on: false })}>On</button>
        <button aria-pressed={steps.every((s) => s.tie)} onClick={() => toggle((s) => s.tie, { tie: true }, { tie: false })}>Tie</button>
        <button aria-pressed={hasGlide} onClick={() => toggle((s) => s.glide != null, { glide: { time: 50 } }, { glide: null })}>Glide</button>
        <button aria-pressed={steps.every((s) => s.skip)} onClick={() => toggle((s) => s.skip, { skip: true }, { skip: false })}>Skip</button>
      </div>
      <div className={css.grid}>
        {fields.map((f) => {
          const c = common(steps, f.read);
          return [
            <label key={`${f.name}l`} htmlFor={`f-${f.name}`}>{f.label}</label>,
            <NumberBox key={f.name} id={`f-${f.name}`} label={f.label} value={c.value} mixed={c.mixed} low={f.low} high={f.high} onChange={(v) => setSelected(f.patch(v))} />,
          ];
        })}
        {hasGlide && (
          <>
            <label htmlFor="f-glide">Glide %</label>
            <NumberBox id="f-glide" label="Glide time" value={glide.value} mixed={glide.mixed} low={0} high={400} onChange={(time) => setEach("glide", (s) => ({ ...s.glide, time }))} />
            <label htmlFor="f-curve">Curve</label>
            <NumberBox id="f-curve" label="Glide curve" value={curve.value} mixed={curve.mixed} low={-100} high={100} onChange={(c) => setEach("glide", (s) => ({ ...s.glide, curve: c }))} />
            <label htmlFor="f-from" title="Semitones from the step's pitch; empty: from the note before">From</label>
            <NumberBox id="f-from" label="Glide from, in semitones" value={from.value} mixed={from.mixed} low={-24} high={24} onChange={(f) => setEach("glide", (s) => ({ ...s.glide, from: f }))} />
            <span className={css.wide} style={{ gridColumn: "3 / -1" }}>
              {from.value !== null && <button onClick={() => setEach("glide", (s) => ({ ...s.glide, from: null }))}>from the last note</button>}
            </span>
            <span>Written</span>
            <span style={{ display: "flex", gap: 4 }} className={css.wide}>
              <Choice label="Glides are written as" value={lane.glide.mode} all={words?.glideModes ?? []} onChange={(mode) => setLane(lane.id, { glide: { mode } })} />
              <NumberBox label="Bend range in semitones" value={lane.glide.range} low={1} high={24} onChange={(range) => setLane(lane.id, { glide: { range } })} />
            </span>
          </>
        )}
        <label htmlFor="f-of">Of rounds</label>
        <NumberBox id="f-of" label="Of so many rounds" value={of.value} mixed={of.mixed} low={1} high={64} onChange={(n) => setEach("rounds", (s) => (n === 1 ? null : { of: n, on: (s.rounds?.on ?? [1]).filter((r) => r <= n).concat((s.rounds?.on ?? [1]).some((r) => r <= n) ? [] : [1]) }))} />
        <span>plays in</span>
        <RoundsOn steps={steps} />
        {one && (
          <>
            <span>Bend</span>
            <Bends step={steps[0]} />
          </>
        )}
      </div>
    </>
  );
}

function RoundsOn({ steps }: { steps: Step[] }) {
  const c = common(steps, (s) => (s.rounds?.on ?? []).join(" "));
  return (
    <input
      key={c.value}
      aria-label="Plays in rounds"
      className="mono"
      disabled={!steps.every((s) => s.rounds)}
      defaultValue={c.mixed ? "" : c.value}
      placeholder={c.mixed ? "mixed" : "all"}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
      onBlur={(e) => {
        const on = e.target.value.split(/[\s,]+/).filter(Boolean).map(Number);
        if (e.target.value !== c.value && on.length) setEach("rounds", (s) => ({ of: s.rounds?.of ?? 1, on }));
      }}
    />
  );
}

/** The points of a bend envelope. */
function Bends({ step }: { step: Step }) {
  const put = (next: (bend: Step["bend"]) => Step["bend"]) => setEach("bend", (s) => next(s.bend));
  const change = (i: number, part: Partial<Step["bend"][number]>) => put((bend) => bend.map((p, k) => (k === i ? { ...p, ...part } : p)));
  return (
    <div className={css.bends}>
      {step.bend.map((p, i) => (
        <div key={i}>
          <NumberBox label={`Bend point ${i + 1} at percent`} value={p.at} low={step.bend[i - 1]?.at ?? 0} high={step.bend[i + 1]?.at ?? 100} onChange={(at) => change(i, { at })} />
          <NumberBox label={`Bend point ${i + 1} by semitones`} value={p.by} low={-24} high={24} onChange={(by) => change(i, { by })} />
          <NumberBox label={`Bend point ${i + 1} curve`} value={p.curve} low={-100} high={100} onChange={(curve) => change(i, { curve })} />
          <button aria-label={`Remove bend point ${i + 1}`} onClick={() => put((bend) => bend.filter((_, k) => k !== i))}>×</button>
        </div>
      ))}
      {step.bend.length < 16 && <button onClick={() => put((bend) => [...bend, { at: bend.length ? 100 : 0, by: 0, curve: 0 }])}>Add a point (at %, semitones, curve)</button>}
    </div>
  );
}
