import { useState } from "react";
import { api } from "../api/client";
import { Choice } from "../controls/Choice";
import { ChoiceField, NumberField } from "../controls/Field";
import { FilePick } from "../controls/FilePick";
import { PointList } from "../controls/PointList";
import { facts } from "../api/facts";
import { setLane, setPiece } from "../state/actions";
import { setLoudness, useLoud } from "../state/player";
import { clipOf, useApp } from "../state/store";
import { keptOf } from "../state/tried";
import { beatNames } from "./beats";
import css from "./TopBar.module.css";

const fact = facts.piece;

/** Stands for a template of the piece's own among the built-in ones. */
const OWN = "own";
const NONE = "none";

/** The groove template with its amounts, swing, its grid, and the seed of chance. */
export function GrooveFields() {
  const piece = useApp((s) => keptOf(s).piece)!;
  const templates = useApp((s) => s.words?.templates) ?? [];
  const { groove } = piece;
  const own = groove.template !== null && typeof groove.template !== "string" ? groove.template.name : null;
  const name = typeof groove.template === "string" ? groove.template : own === null ? "" : OWN;
  return (
    <div className={css.popover}>
      <span title={fact.groove.fields.template.doc}>Template</span>
      <div className={css.templates}>
        <PointList
          label="Groove template"
          standing={name || NONE}
          items={["", ...(own === null ? [] : [OWN]), ...templates].map((t) => ({
            name: t || NONE,
            label: t === OWN ? own : t || NONE,
            edit: t === OWN ? [] : [{ op: "piece.set", patch: { groove: { template: t || null } } }],
          }))}
        />
      </div>
      {groove.template !== null && (
        <>
          <NumberField
            id="groove-timing"
            fact={fact.groove.fields.timing}
            label="Groove timing in percent"
            value={groove.timing}
            onChange={(timing) => setPiece({ groove: { timing } })}
          />
          <NumberField
            id="groove-velocity"
            fact={fact.groove.fields.velocity}
            label="Groove velocity in percent"
            value={groove.velocity}
            onChange={(velocity) => setPiece({ groove: { velocity } })}
          />
        </>
      )}
      <FromFile />
      <NumberField
        id="swing"
        fact={fact.groove.fields.swing}
        label="Swing"
        value={piece.groove.swing}
        onChange={(swing) => setPiece({ groove: { swing } })}
      />
      <ChoiceField
        id="grid"
        fact={fact.groove.fields.grid}
        label="Swing grid"
        value={piece.groove.grid}
        onChange={(grid) => setPiece({ groove: { grid } })}
      />
      {(groove.template !== null || groove.swing !== fact.groove.fields.swing.low) && <Along />}
      <NumberField
        id="seed"
        fact={fact.seed}
        label="Seed of chance"
        value={piece.seed}
        onChange={(seed) => setPiece({ seed })}
      />
    </div>
  );
}

/** The lanes of the open clip that go along with the groove in time: what is late is late against the others. */
function Along() {
  const lanes = useApp((s) => s.view?.lanes) ?? [];
  const own = useApp((s) => clipOf(keptOf(s))?.lanes) ?? [];
  return (
    <>
      <span title="A lane that does not go along stays in straight time, so that what is late is late against something">
        In time with it
      </span>
      <div className={css.along} role="group" aria-label="Lanes that go along with the groove in time">
        {lanes.map(({ id, share }) => (
          <label key={id}>
            <input
              type="checkbox"
              checked={share.timing > 0}
              onChange={(e) => setLane(id, { share: { ...share, timing: e.target.checked ? 100 : 0 } })}
            />{" "}
            {own.find((lane) => lane.id === id)?.name}
          </label>
        ))}
      </div>
    </>
  );
}

/** Takes the groove of a MIDI file. */
function FromFile() {
  const [problem, setProblem] = useState("");
  const take = async (file: File) => {
    setProblem("");
    try {
      setPiece({ groove: await api.groove(file) });
    } catch (e) {
      setProblem(`${file.name}: ${e instanceof Error ? e.message : String(e)}`);
    }
  };
  return (
    <>
      <span />
      <FilePick
        label="Take a groove from a MIDI file"
        accept=".mid,.midi,audio/midi"
        className={css.pick}
        title="Makes a template of where the notes of a MIDI file fall and how hard they are struck; swing is set to 50, for the file's own is in it"
        onFile={(file) => void take(file)}
      >
        Take one from a MIDI file
      </FilePick>
      {problem && (
        <p className={css.problem} role="alert">
          {problem}
        </p>
      )}
    </>
  );
}

/** The backing beat, and whether notes are heard when they are clicked. */
export function BeatFields() {
  const piece = useApp((s) => s.piece)!;
  const set = useApp((s) => s.set);
  const audition = useApp((s) => s.audition);
  const loud = useLoud();
  return (
    <div className={css.popover}>
      <label htmlFor="beat">Beat</label>
      <Choice
        id="beat"
        label="Backing beat"
        value={piece.beat.pattern}
        all={fact.beat.fields.pattern.choices}
        words={beatNames}
        onChange={(pattern) => setPiece({ beat: { pattern } })}
      />
      <NumberField
        id="beat-level"
        fact={fact.beat.fields.level}
        label="Beat level"
        value={piece.beat.level}
        onChange={(level) => setPiece({ beat: { level } })}
      />
      <NumberField
        id="loudness"
        fact={{
          title: "Loudness here",
          unit: "%",
          doc: "How loud everything is on this machine, which remembers it.",
          low: 0,
          high: 100,
        }}
        label="Loudness on this machine in percent"
        value={loud}
        onChange={setLoudness}
      />
      <label htmlFor="audition">Sound notes when clicked</label>
      <input
        id="audition"
        type="checkbox"
        checked={audition}
        onChange={(e) => set({ audition: e.target.checked })}
        style={{ justifySelf: "start", accentColor: "var(--ink)" }}
      />
    </div>
  );
}
