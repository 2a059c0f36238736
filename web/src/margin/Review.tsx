import type { ReactNode } from "react";
import type { Finding } from "../api/gen/render.gen";
import { ActionMenu } from "../controls/Popup";
import { useSheet } from "../state/sheet";
import { clipOf, laneIn, useApp } from "../state/store";
import css from "./Margin.module.css";

/** What the review found, each with its place and its mends; and what it is told to be quiet about. */
export function Review({ findings, agreement }: { findings: Finding[]; agreement: ReactNode }) {
  const app = useApp.getState;
  const shown = useApp((s) => s.view !== null);
  const jump = (f: Finding) => {
    app().goTo(f.lane);
    useSheet.getState().show(f.lane);
    if (f.step) app().select([f.step - 1], f.step - 1);
  };
  return (
    <section className={css.review}>
      <h2>Review {findings.length ? <span className="mono">{findings.length}</span> : null}</h2>
      {findings.length === 0 && shown && (
        <p className={css.hint}>Nothing to remark: every lane sounds, and the loop leads back to its start.</p>
      )}
      {agreement}
      <ul>
        {findings.map((f, i) => (
          <li key={`${f.rule} ${f.lane} ${f.step} ${i}`}>
            <p>{f.message}</p>
            <div>
              {f.lane && <button onClick={() => jump(f)}>{f.step ? "Show the step" : "Show the lane"}</button>}
              {[f.mend, ...(f.more ?? [])].map(
                (mend) =>
                  mend && (
                    <button key={mend.label} onClick={() => void app().edit(mend.ops)}>
                      {mend.label}
                    </button>
                  ),
              )}
              <Hush finding={f} />
            </div>
          </li>
        ))}
      </ul>
      <Quiet />
    </section>
  );
}

/** Lets a rule be quiet, or say its findings again, for a lane or without one for the piece: by what is quiet when the
 * edit's turn comes. */
function setQuiet(rule: string, lane: string, quiet: boolean): void {
  const { clip, edit } = useApp.getState();
  void edit((now) => {
    const was = (lane ? laneIn(now, clip, lane)?.quiet : now.piece?.quiet) ?? [];
    const rest = was.filter((r) => r !== rule);
    const patch = { quiet: quiet ? [...rest, rule] : rest };
    return [lane ? { op: "lane.set", clip, lane, patch } : { op: "piece.set", patch }];
  });
}

/** Lets the review be quiet about what it found, for the lane or for the whole piece. */
function Hush({ finding: { rule, lane } }: { finding: Finding }) {
  const title = useTitle();
  const name = useApp((s) => clipOf(s)?.lanes.find((l) => l.id === lane)?.name);
  if (!title(rule)) return null; // what keeps a lane silent is always said
  return (
    <ActionMenu
      button={<button aria-label={`Be quiet about it: ${title(rule)}`}>Be quiet ▾</button>}
      position="bottom-start"
      items={[
        ...(name ? [{ label: `In ${name}`, run: () => setQuiet(rule, lane, true) }] : []),
        { label: "In the whole piece", run: () => setQuiet(rule, "", true) },
      ]}
    />
  );
}

/** What each rule of the review finds, as a heading; empty for one that is never quiet. */
function useTitle(): (rule: string) => string {
  const remarks = useApp((s) => s.words?.remarks) ?? [];
  return (rule) => remarks.find((r) => r.rule === rule)?.title ?? "";
}

/** What the review is quiet about here, with a way to hear it again. */
function Quiet() {
  const everywhere = useApp((s) => s.piece?.quiet) ?? [];
  const lanes = useApp((s) => clipOf(s)?.lanes) ?? [];
  const title = useTitle();
  const all = [
    ...everywhere.map((rule) => ({ rule, lane: "", where: "in the whole piece" })),
    ...lanes.flatMap(({ id, name, quiet }) => (quiet ?? []).map((rule) => ({ rule, lane: id, where: `in ${name}` }))),
  ];
  if (!all.length) return null;
  return (
    <details className={css.quiet}>
      <summary>Quiet about {all.length === 1 ? "one thing" : `${all.length} things`}</summary>
      <ul aria-label="What the review is quiet about">
        {all.map(({ rule, lane, where }) => (
          <li key={`${lane} ${rule}`}>
            {title(rule)} {where} <button onClick={() => setQuiet(rule, lane, false)}>Say it again</button>
          </li>
        ))}
      </ul>
    </details>
  );
}
