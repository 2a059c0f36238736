import { facts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { many } from "../../words";
import { setLane, toggle } from "../../state/actions";
import { useApp } from "../../state/store";
import type { FullNote } from "../../api/free";
import type { LaneProps } from "../kind";
import { CellFields, common } from "../steps/Fields";
import { GlideSwitch, Sliding } from "../steps/Sliding";
import css from "../steps/steps.module.css";
import { freeNotes } from "../../api/free";
import { each } from "./actions";
import type { NotesLane } from "./notes";

const fact = facts.step.notes;

/** Exact numbers of one free note or many. */
export function Fields({ lane, view, selection }: LaneProps<NotesLane> & { selection: number[] }) {
  const degrees = useApp((s) => s.view?.keyNotes.length ?? 7);
  const all = freeNotes(lane) ?? [];
  const notes = selection.flatMap((n) => all[n] ?? []);
  const [first] = notes;
  if (!first) return null;
  const row = view.ladder.find((r) => r.pitch === view.free?.rows[selection[0]!]);
  const one = lane.voices === "one";
  const apart = lane.glide.mode === "mpe";
  const placed = notes.every((n) => n.note === null);
  const number = (field: "at" | "length" | "degree" | "octave" | "alter", high?: number) => {
    const c = common(notes, (n) => n[field]);
    return (
      <NumberField
        key={field}
        id={`f-${field}`}
        fact={fact[field]}
        value={c.value}
        mixed={c.mixed}
        high={high}
        onChange={(v) => each(() => ({ [field]: v }))}
      />
    );
  };
  return (
    <>
      <div className={css.head}>
        <b>{notes.length === 1 ? `Note ${first.number}` : many(notes.length, "note")}</b>
        <span className="mono" data-testid="step-name">
          {notes.length === 1 ? (row?.name ?? "") : ""}
        </span>
      </div>
      {one || apart ? (
        <div className={css.switches} role="group" aria-label="Switches">
          {one && (
            <button
              aria-pressed={notes.every((n) => n.tie)}
              onClick={() => toggle((s) => s.tie, { tie: true }, { tie: false })}
            >
              Tie
            </button>
          )}
          <GlideSwitch steps={notes} />
        </div>
      ) : (
        <p className={css.offers}>
          <button onClick={() => setLane(lane.id, { voices: "one" })}>One voice</button> lets notes tie, glide and bend;{" "}
          <button onClick={() => setLane(lane.id, { glide: { mode: "mpe" } })}>Note by note</button> lets many glide.
        </p>
      )}
      <div className={css.grid}>
        {number("at")}
        {number("length")}
        {placed ? (
          <>
            {number("degree", degrees)}
            {number("octave")}
            {number("alter")}
          </>
        ) : (
          <MidiField notes={notes} />
        )}
        <CellFields steps={notes} kind="notes" />
        {(one || apart) && (
          <Sliding lane={lane} steps={notes} {...(one ? {} : { written: facts.lane.notes.glide.fields })} />
        )}
      </div>
    </>
  );
}

function MidiField({ notes }: { notes: FullNote[] }) {
  const c = common(notes, (n) => n.note ?? -1);
  return (
    <NumberField
      id="f-note"
      fact={fact.note}
      value={c.value}
      mixed={c.mixed || c.value < 0}
      onChange={(note) => each(() => ({ note }))}
    />
  );
}
