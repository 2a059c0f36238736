import type { Cell, Glide, GlideMode, Point } from "../../api/gen/piece.gen";
import { Choice } from "../../controls/Choice";
import { facts } from "../../api/facts";
import { NumberBox } from "../../controls/NumberBox";
import { setEach, setLane, turnGlide } from "../../state/actions";
import { common } from "./Fields";
import css from "./steps.module.css";

/** A step that may slide into its tone and bend it. */
interface SlidingStep extends Cell {
  glide: Glide | null;
  bend: Point[];
}

/** A lane of such steps. */
interface SlidingLane {
  id: string;
  glide: GlideMode | null;
}

/** What is shown of how glides are written, by what lanes of a kind allow. */
interface Written {
  mode: { title: string; choices: readonly string[] };
  range: { low: number; high: number };
}

/** How the ways of writing glides are called. */
const writings = { bend: "the bend wheel", legato: "portamento", mpe: "each note" };

const fact = facts.step.line;
const usual: Written = facts.lane.line.glide.fields;

interface SwitchProps {
  steps: readonly SlidingStep[];
  /** What a lane needs set for its steps to glide; absent: nothing. */
  first?: Record<string, unknown> | null;
}

/** Whether the selected steps glide. */
export function GlideSwitch({ steps, first }: SwitchProps) {
  return (
    <button aria-pressed={steps.every((s) => s.glide !== null)} onClick={() => turnGlide(first)}>
      Glide
    </button>
  );
}

interface SlidingProps {
  lane: SlidingLane;
  steps: readonly SlidingStep[];
  /** How glides of the lane's kind may be written. */
  written?: Written;
}

/** How the selected steps glide, and how a single one bends. */
export function Sliding({ lane, steps, written = usual }: SlidingProps) {
  const [first] = steps;
  return (
    <>
      {steps.every((s) => s.glide !== null) && <GlideFields lane={lane} steps={steps} written={written} />}
      {steps.length === 1 && first && (
        <>
          <span>Bend</span>
          <Bends step={first} />
        </>
      )}
    </>
  );
}

function GlideFields({ lane, steps, written }: Required<SlidingProps>) {
  const glide = fact.glide.fields;
  const time = common(steps, (s) => s.glide?.time ?? 0);
  const curve = common(steps, (s) => s.glide?.curve ?? 0);
  const from = common(steps, (s) => s.glide?.from ?? null);
  const set = (part: Record<string, number | null>) => setEach<SlidingStep>("glide", (s) => ({ ...s.glide, ...part }));
  return (
    <>
      <label htmlFor="f-glide">Glide %</label>
      <NumberBox
        id="f-glide"
        label="Glide time"
        value={time.value}
        mixed={time.mixed}
        low={glide.time.low}
        high={glide.time.high}
        onChange={(v) => set({ time: v })}
      />
      <label htmlFor="f-curve">{glide.curve.title}</label>
      <NumberBox
        id="f-curve"
        label="Glide curve"
        value={curve.value}
        mixed={curve.mixed}
        low={glide.curve.low}
        high={glide.curve.high}
        onChange={(v) => set({ curve: v })}
      />
      <label htmlFor="f-from" title={glide.from.doc}>
        {glide.from.title}
      </label>
      <NumberBox
        id="f-from"
        label="Glide from, in semitones"
        value={from.value}
        mixed={from.mixed}
        low={glide.from.low}
        high={glide.from.high}
        onChange={(v) => set({ from: v })}
      />
      <span className={css.rest}>
        {from.value !== null && <button onClick={() => set({ from: null })}>from the last note</button>}
      </span>
      {lane.glide && (
        <>
          <span>{written.mode.title}</span>
          <span className={css.wide} style={{ display: "flex", gap: 4 }}>
            <Choice
              label="Glides are written as"
              value={lane.glide.mode}
              all={written.mode.choices}
              words={writings}
              onChange={(mode) => setLane(lane.id, { glide: { mode } })}
            />
            <NumberBox
              label="Bend range in semitones"
              value={lane.glide.range}
              low={written.range.low}
              high={written.range.high}
              onChange={(range) => setLane(lane.id, { glide: { range } })}
            />
          </span>
        </>
      )}
    </>
  );
}

/** The points of a bend envelope. */
function Bends({ step }: { step: SlidingStep }) {
  const { at, by, curve } = fact.bend.fields;
  const put = (next: (bend: SlidingStep["bend"]) => SlidingStep["bend"]) =>
    setEach<SlidingStep>("bend", (s) => next(s.bend));
  const change = (i: number, part: Partial<SlidingStep["bend"][number]>) =>
    put((bend) => bend.map((p, k) => (k === i ? { ...p, ...part } : p)));
  return (
    <div className={css.bends}>
      {step.bend.map((p, i) => (
        <div key={i}>
          <NumberBox
            label={`Bend point ${i + 1} at percent`}
            value={p.at}
            low={step.bend[i - 1]?.at ?? at.low}
            high={step.bend[i + 1]?.at ?? at.high}
            onChange={(v) => change(i, { at: v })}
          />
          <NumberBox
            label={`Bend point ${i + 1} by semitones`}
            value={p.by}
            low={by.low}
            high={by.high}
            onChange={(v) => change(i, { by: v })}
          />
          <NumberBox
            label={`Bend point ${i + 1} curve`}
            value={p.curve}
            low={curve.low}
            high={curve.high}
            onChange={(v) => change(i, { curve: v })}
          />
          <button
            aria-label={`Remove bend point ${i + 1}`}
            onClick={() => put((bend) => bend.filter((_, k) => k !== i))}
          >
            ×
          </button>
        </div>
      ))}
      {step.bend.length < fact.bend.high && (
        <button onClick={() => put((bend) => [...bend, { at: bend.length ? at.high : at.low, by: 0, curve: 0 }])}>
          Add a point (at %, semitones, curve)
        </button>
      )}
    </div>
  );
}
