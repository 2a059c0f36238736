import { useEffect, useState } from "react";
import { api } from "../api/client";
import type { Explanation } from "../api/gen/server.gen";
import type { Finding } from "../api/gen/review.gen";
import { laneOf, laneViewOf, useApp } from "../state/store";
import { StepFields } from "./StepFields";
import { SoundFields } from "./SoundFields";
import { ManyTools } from "./ManyTools";
import css from "./Margin.module.css";

/** The margin: what is selected, why it sounds so, and what the review found. */
export function Margin() {
  const lane = useApp(laneOf);
  const view = useApp(laneViewOf);
  const selection = useApp((s) => s.selection);
  const findings = useApp((s) => s.view?.findings);
  const [part, setPart] = useState<"steps" | "sound">("steps");
  return (
    <aside className={css.margin} aria-label="Margin">
      {lane && view && (
        <section>
          <div className={css.tabs} role="tablist">
            <button role="tab" aria-selected={part === "steps"} onClick={() => setPart("steps")}>Steps</button>
            <button role="tab" aria-selected={part === "sound"} onClick={() => setPart("sound")}>Sound of {lane.name}</button>
          </div>
          {part === "sound" ? <SoundFields lane={lane} /> : selection.length ? (
            <>
              <StepFields lane={lane} view={view} selection={selection} />
              <ManyTools count={selection.length} />
            </>
          ) : (
            <>
              <p className={css.hint}>Nothing is selected in {lane.name}. Click a note to see its numbers, or click an empty place on the ladder to put one there.</p>
              <ManyTools count={0} />
            </>
          )}
        </section>
      )}
      <Why />
      <Review findings={findings ?? []} />
    </aside>
  );
}

/** Why the hovered note, or else the selected one, is there. */
function Why() {
  const hover = useApp((s) => s.hover);
  const id = useApp((s) => s.id);
  const clip = useApp((s) => s.clip);
  const version = useApp((s) => s.version);
  const selected = useApp((s) => {
    const view = laneViewOf(s);
    if (!view || s.selection.length !== 1) return -1;
    // A step that a tie joined has no note of its own: the one that runs through it speaks.
    const slot = view.slots.indexOf(s.selection[0]);
    const note = view.notes.find((n) => n[4] === s.selection[0]) ?? view.notes.find((n) => slot >= 0 && n[0] <= slot * view.stepTicks && n[0] + n[1] > slot * view.stepTicks);
    return note ? note[5] : -1;
  });
  const lane = useApp((s) => s.lane);
  const [why, setWhy] = useState<Explanation | null>(null);
  const [trouble, setTrouble] = useState("");
  const target = hover ?? (selected >= 0 ? { lane, note: selected } : null);
  const key = target ? `${target.lane} ${target.note} ${version} ${clip}` : "";
  useEffect(() => {
    if (!target) {
      setWhy(null);
      return;
    }
    let current = true;
    const timer = window.setTimeout(() => {
      api.why(id, clip, target.lane, target.note).then(
        (w) => current && (setWhy(w), setTrouble("")),
        (problem: Error) => current && (setWhy(null), setTrouble(problem.message)),
      );
    }, 60);
    return () => {
      current = false;
      window.clearTimeout(timer);
    };
  }, [key]);
  return (
    <section className={css.why}>
      <h3>Why it sounds so</h3>
      <p data-testid="why">{trouble || why?.text || "Point at a note to read which rules made it."}</p>
    </section>
  );
}

function Review({ findings }: { findings: Finding[] }) {
  const app = useApp.getState;
  const jump = (f: Finding) => {
    if (!f.lane) return;
    app().openLane(f.lane);
    if (f.step) app().select([f.step - 1], f.step - 1);
  };
  return (
    <section className={css.review}>
      <h3>Review {findings.length ? <span className="mono">{findings.length}</span> : null}</h3>
      {findings.length === 0 && <p className={css.hint}>Nothing to remark: every lane sounds, and the loop leads back to its start.</p>}
      <ul>
        {findings.map((f, i) => (
          <li key={`${f.rule} ${f.lane} ${f.step} ${i}`}>
            <p>{f.message}</p>
            <div>
              {f.lane && <button onClick={() => jump(f)}>{f.step ? "Show the step" : "Show the lane"}</button>}
              {f.mend && <button onClick={() => void app().edit(f.mend!.ops)}>{f.mend.label}</button>}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
