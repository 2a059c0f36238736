import { useState } from "react";
import { giveBack } from "../../controls/hands";
import { NumberBox } from "../../controls/NumberBox";
import { many } from "../../words";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { Move, Pair, PasteOnly } from "../steps/Tools";
import css from "../steps/steps.module.css";
import {
  bringToStart,
  copy,
  cutInto,
  forgetMotif,
  join,
  moveLater,
  paste,
  pasteOnly,
  remove,
  repeat,
  stretch,
  takeMotif,
} from "./actions";
import { reverseChosen } from "../../state/actions";
import { become } from "./become";
import { useHands } from "./state";
import type { NotesLane } from "./notes";

/** Tools for the selected free notes. */
export function Tools({ lane }: LaneProps<NotesLane>) {
  const [parts, setParts] = useState(2);
  const [share, setShare] = useState(150);
  const { feel, setFeel } = useHands();
  const motif = useHands((s) => s.motif);
  const count = useApp((s) => s.selection.length);
  return (
    <div className={css.tools} role="group" aria-label={count ? "For the selected notes" : "For all notes"}>
      <div className={css.pairs}>
        <Move title="Degree" unit="degree" name="A degree" />
        <Move title="Semitone" unit="semitone" name="A semitone" />
        <Move title="Octave" unit="octave" name="An octave" />
        <Pair title="Time" less="Earlier by the grid" more="Later by the grid" run={(by) => void moveLater(by)} />
      </div>
      <div>
        <button onClick={() => void reverseChosen()}>Reverse</button>
        <button onClick={copy} disabled={!count}>
          Copy
        </button>
        <button onClick={paste}>Paste</button>
        <PasteOnly disabled={!count} paste={pasteOnly} />
        <button onClick={() => void repeat()} disabled={!count}>
          Repeat
        </button>
        <button onClick={() => void remove()} disabled={!count}>
          Take away
        </button>
        <button onClick={() => void join()} disabled={count < 2}>
          Join
        </button>
        <button onClick={() => void bringToStart()} disabled={!count}>
          Bring to the start
        </button>
        <button onClick={takeMotif} disabled={!count} title="Then hold Alt and draw: it is stamped along the stroke">
          Take as motif
        </button>
        {motif && <button onClick={forgetMotif}>Forget the motif of {many(motif.notes.length, "note")}</button>}
      </div>
      <form
        className={css.free}
        onSubmit={(e) => {
          e.preventDefault();
          void cutInto(parts);
          giveBack();
        }}
      >
        <span>Cut into</span>
        <NumberBox label="Parts" value={parts} low={2} high={64} onChange={setParts} />
        <span>parts</span>
        <button type="submit" disabled={!count}>
          Cut
        </button>
      </form>
      <form
        className={css.free}
        onSubmit={(e) => {
          e.preventDefault();
          stretch(share / 100);
          giveBack();
        }}
      >
        <span>Stretch to</span>
        <NumberBox label="Stretch to, in %" value={share} low={5} high={1600} onChange={setShare} />
        <span>%</span>
        <label title="Each note keeps its distance from the grid; Shift and a drag of their outer end stretches, too">
          <input type="checkbox" checked={feel} onChange={(e) => setFeel(e.target.checked)} /> keep the feel
        </label>
        <button type="submit" disabled={!count}>
          Stretch
        </button>
      </form>
      <div>
        <span>Make it</span>
        {(["line", "chords", "pulses"] as const).map((as) => (
          <button key={as} onClick={() => become(lane, as)}>
            {as === "line" ? "a line" : as}
          </button>
        ))}
      </div>
    </div>
  );
}
