import { Choice } from "../controls/Choice";
import { ChoiceField, NumberField } from "../controls/Field";
import { facts } from "../controls/facts";
import { setPiece } from "../state/actions";
import { useApp } from "../state/store";
import { beatNames } from "./beats";
import css from "./TopBar.module.css";

const fact = facts.piece;

/** Swing, its grid, and the seed of chance. */
export function GrooveFields() {
  const piece = useApp((s) => s.piece)!;
  return (
    <div className={css.popover}>
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

/** The backing beat, and whether notes are heard when they are clicked. */
export function BeatFields() {
  const piece = useApp((s) => s.piece)!;
  const set = useApp((s) => s.set);
  const audition = useApp((s) => s.audition);
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
