import { copySteps, onSteps, pasteSteps, repeatSteps } from "../state/actions";
import { useApp } from "../state/store";
import css from "./Margin.module.css";

/** Tools for the selected steps, or for the whole lane when none is. */
export function ManyTools({ count }: { count: number }) {
  const clipboard = useApp((s) => s.clipboard.length);
  const move = (unit: string, by: number) => onSteps("steps.transpose", { unit, by });
  return (
    <div className={css.tools} role="group" aria-label={count ? "For the selected steps" : "For the whole lane"}>
      <div className={css.four}><span>Degree</span><button aria-label="A degree down" onClick={() => move("degree", -1)}>−</button><button aria-label="A degree up" onClick={() => move("degree", 1)}>+</button>
        <span>Semitone</span><button aria-label="A semitone down" onClick={() => move("semitone", -1)}>−</button><button aria-label="A semitone up" onClick={() => move("semitone", 1)}>+</button></div>
      <div className={css.four}><span>Octave</span><button aria-label="An octave down" onClick={() => move("octave", -1)}>−</button><button aria-label="An octave up" onClick={() => move("octave", 1)}>+</button>
        <span>Rotate</span><button aria-label="Rotate a step earlier" onClick={() => onSteps("steps.rotate", { by: -1 })}>←</button><button aria-label="Rotate a step later" onClick={() => onSteps("steps.rotate", { by: 1 })}>→</button></div>
      <div>
        <button onClick={() => onSteps("steps.reverse")}>Reverse</button>
        <button onClick={copySteps}>Copy</button>
        <button onClick={pasteSteps} disabled={!clipboard}>Paste</button>
        <button onClick={repeatSteps} disabled={!count}>Repeat</button>
      </div>
    </div>
  );
}
