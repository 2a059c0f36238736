import { placeWord } from "../../api/free";
import { useState } from "react";
import type { Modulator } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView, Move } from "../../api/gen/view.gen";
import { Choice } from "../../controls/Choice";
import { laneFact } from "../../api/facts";
import { NumberBox } from "../../controls/NumberBox";
import { useApp, whileHeld } from "../../state/store";
import css from "./motion.module.css";
import { changeModulators } from "./edit";
import { Wave } from "./Wave";

const fact = laneFact.modulators;
const shapes: Readonly<Record<string, string>> = {
  sine: "a sine",
  triangle: "a triangle",
  rise: "rising",
  fall: "falling",
  square: "two levels",
  steps: "levels",
  jump: "jumps, by luck",
  drift: "drifts, by luck",
};

/** The modulators of a lane, and a way to add one. */
export function Modulators({ lane, view }: { lane: Lane; view: LaneView }) {
  const { moves } = view;
  const full = lane.modulators.length >= fact.high;
  const add = (move: Move) =>
    changeModulators(lane, (list) => [
      ...list,
      {
        on: move.name,
        shape: "sine",
        every: "2bar",
        phase: 0,
        from: move.from,
        to: move.to,
        way: "set",
        values: [],
        off: false,
      },
    ]);
  return (
    <div className={css.part} role="group" aria-label="Modulators">
      <h3>Modulators</h3>
      {lane.modulators.length === 0 && <p>A wave that moves a value of the {placeWord(lane)}s as the clip goes by.</p>}
      {lane.modulators.map((m, i) => (
        <One key={i} lane={lane} view={view} index={i} m={m} moves={moves} />
      ))}
      <Choice
        label="Add a modulator"
        value=""
        all={full ? [""] : ["", ...moves.map((m) => m.name)]}
        words={{ "": full ? `at most ${fact.high}` : "Add one on …" }}
        onChange={(name) => {
          const move = moves.find((m) => m.name === name);
          if (move) add(move);
        }}
      />
    </div>
  );
}

const ends = ({ from, to }: Move) => ({ from, to });

interface OneProps {
  lane: Lane;
  view: LaneView;
  index: number;
  m: Modulator;
  moves: readonly Move[];
}

function One({ lane, view, index, m, moves }: OneProps) {
  const everys = useApp((s) => s.words?.everys) ?? [];
  const [draft, setDraft] = useState<Partial<Modulator>>({});
  const move = moves.find((f) => f.name === m.on);
  if (!move) return null;
  const width = move.high - move.low;
  const [low, high] = reach(move, m.way);
  const set = (part: Partial<Modulator>) =>
    changeModulators(lane, (list) => list.map((own, i) => (i === index ? { ...own, ...part } : own)));
  const shown = { ...m, ...draft };
  const of = `of modulator ${index + 1}`;
  const own = view.moved.find((f) => f.field === m.on)?.inSteps ?? true;
  return (
    <div
      className={css.wave}
      data-off={m.off || undefined}
      role="group"
      aria-label={`Modulator ${index + 1}, on ${m.on}${m.off ? ", off" : ""}`}
    >
      <div className={css.grid}>
        <span>Moves</span>
        <Choice
          label={`Field ${of}`}
          value={m.on}
          all={moves.map((f) => f.name)}
          onChange={(on) => set({ on, way: "set", ...ends(moves.find((f) => f.name === on)!) })}
        />
        <span>every</span>
        <Choice
          label={`Period ${of}`}
          value={m.every}
          all={everys.includes(m.every) ? everys : [m.every, ...everys]}
          words={Object.fromEntries(
            everys.map((e) => [e, e.replace(/^(\d+)bar$/, "$1 bars").replace(/^1 bars$/, "1 bar")]),
          )}
          onChange={(every) => set({ every })}
        />
      </div>
      <Wave
        view={view}
        index={index}
        m={shown}
        kept={m}
        low={low}
        high={high}
        onMove={(part) => {
          setDraft(part);
          whileHeld(() => Object.keys(part).length && set(part));
        }}
        onDone={(part) => {
          setDraft({});
          if (part && Object.keys(part).length) set(part);
          else whileHeld(() => {}); // nothing of it is left
        }}
      />
      <div className={css.grid}>
        <span>Shape</span>
        <Choice
          label={`Shape ${of}`}
          value={m.shape}
          all={fact.fields.shape.choices}
          words={shapes}
          onChange={(shape) =>
            set(shape === "steps" && !m.values.length ? { shape, values: [0, 100, 50, 75] } : { shape })
          }
        />
        <span title={fact.fields.way.doc}>way</span>
        <Choice
          label={`Way ${of}`}
          value={m.way}
          all={fact.fields.way.choices}
          words={{ set: "replaces", add: "adds" }}
          onChange={(way) =>
            set(
              way === "add" ? { way, from: -Math.round(width / 8), to: Math.round(width / 8) } : { way, ...ends(move) },
            )
          }
        />
        <span>From</span>
        <End label={`From ${of}`} value={shown.from} move={move} way={m.way} onChange={(from) => set({ from })} />
        <span>to</span>
        <End label={`To ${of}`} value={shown.to} move={move} way={m.way} onChange={(to) => set({ to })} />
        <span title={fact.fields.phase.doc}>Phase %</span>
        <NumberBox label={`Phase ${of}`} value={shown.phase} low={0} high={99} onChange={(phase) => set({ phase })} />
      </div>
      <div className={css.foot}>
        <button
          disabled={!own}
          title={
            own
              ? "Writes what it gives into the steps, where it gives each the same in every round, and takes it away"
              : `The ${m.on} is the whole lane's: the steps have none of their own to write it into`
          }
          onClick={() => {
            const { clip, edit } = useApp.getState();
            void edit([{ op: "lane.writeModulator", clip, lane: lane.id, modulator: index + 1 }]);
          }}
        >
          Write it into the steps
        </button>
        <button
          aria-pressed={m.off}
          aria-label={`Modulator ${index + 1} is off`}
          title="It stays as it is set, and is as if it were not there"
          onClick={() => set({ off: !m.off })}
        >
          Off
        </button>
        <button
          aria-label={`Remove modulator ${index + 1}`}
          onClick={() => changeModulators(lane, (list) => list.filter((_, i) => i !== index))}
        >
          Remove
        </button>
      </div>
    </div>
  );
}

/** The least and most that an end of a modulator may be. */
const reach = ({ low, high }: Move, way: string): [number, number] =>
  way === "add" ? [low - high, high - low] : [low, high];

interface EndProps {
  label: string;
  value: number;
  move: Move;
  way: string;
  onChange: (value: number) => void;
}

/** An end of a modulator: a number, or the name of what the number stands for. */
function End({ label, value, move, way, onChange }: EndProps) {
  const [low, high] = reach(move, way);
  if (!move.words.length || way === "add")
    return <NumberBox label={label} value={value} low={low} high={high} onChange={onChange} />;
  return (
    <Choice
      label={label}
      value={String(value)}
      all={move.words.map((_, i) => String(low + i))}
      words={Object.fromEntries(move.words.map((word, i) => [low + i, word]))}
      onChange={(to) => onChange(Number(to))}
    />
  );
}
