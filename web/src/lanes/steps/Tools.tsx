import type { ReactNode } from "react";
import { ActionMenu } from "../../controls/Popup";
import { copySteps, onChosen, pasteSteps, repeatSteps, reverseChosen, transposeChosen } from "../../state/actions";
import { useApp } from "../../state/store";
import css from "./steps.module.css";

/** A pair of buttons for less and more of something. */
export function Pair({
  title,
  less,
  more,
  run,
}: {
  title: string;
  less: string;
  more: string;
  run: (by: number) => void;
}) {
  return (
    <span className={css.pair}>
      <span>{title}</span>
      <button aria-label={less} onClick={() => run(-1)}>
        −
      </button>
      <button aria-label={more} onClick={() => run(1)}>
        +
      </button>
    </span>
  );
}

/** A pair of buttons that move notes by a unit. */
export function Move({ title, unit, name }: { title: string; unit: string; name: string }) {
  return <Pair title={title} less={`${name} down`} more={`${name} up`} run={(by) => void transposeChosen(unit, by)} />;
}

const rotate = (by: number) => onChosen((on) => ({ op: "steps.rotate", ...on, by }));

/** What can be pasted alone, in words of the screen. */
export const pasted = ["pitches", "rhythm", "velocities", "lengths", "chance"] as const;

/** A menu that pastes one part of what was copied. */
export function PasteOnly({ disabled, paste }: { disabled: boolean; paste: (only: (typeof pasted)[number]) => void }) {
  return (
    <ActionMenu
      button={
        <button disabled={disabled} title="One part of what was copied, onto what stands here">
          Paste only ▾
        </button>
      }
      position="bottom-start"
      items={pasted.map((only) => ({ label: `The ${only}`, run: () => paste(only) }))}
    />
  );
}

/** Tools for the selected steps, or for the whole lane when none is; own are those
 * of the lane's kind. */
export function StepTools({ count, own }: { count: number; own: ReactNode }) {
  const clipboard = useApp((s) => s.clipboard.steps.length);
  return (
    <div className={css.tools} role="group" aria-label={count ? "For the selected steps" : "For the whole lane"}>
      <div className={css.pairs}>
        {own}
        <span className={css.pair}>
          <span>Rotate</span>
          <button aria-label="Rotate a step earlier" onClick={() => rotate(-1)}>
            ←
          </button>
          <button aria-label="Rotate a step later" onClick={() => rotate(1)}>
            →
          </button>
        </span>
      </div>
      <div>
        <button onClick={() => void reverseChosen()}>Reverse</button>
        <button onClick={copySteps}>Copy</button>
        <button onClick={() => pasteSteps()} disabled={!clipboard}>
          Paste
        </button>
        <PasteOnly disabled={!clipboard} paste={pasteSteps} />
        <button onClick={repeatSteps} disabled={!count}>
          Repeat
        </button>
      </div>
    </div>
  );
}
