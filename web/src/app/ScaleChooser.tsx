import { useEffect, useState } from "react";
import { api } from "../api/client";
import type { Report } from "../api/gen/chord.gen";
import type { Key } from "../api/gen/piece.gen";
import { message, useApp } from "../state/store";
import css from "./App.module.css";

const show = (el: HTMLElement | null) => el?.scrollIntoView({ block: "nearest" });

const sign = (name: string) => name.replace("#", "♯").replace(/(?<=.)b/, "♭");

/** Chooses a tonic and a scale, and shows the notes they give. */
export function ScaleChooser({ value, onChange }: { value: Key; onChange: (key: Key) => void }) {
  const words = useApp((s) => s.words);
  const [report, setReport] = useState<Report | null>(null);
  const [trouble, setTrouble] = useState("");
  const [custom, setCustom] = useState(Array.isArray(value.scale) ? value.scale.join(" ") : "");
  const scale = Array.isArray(value.scale) ? value.scale.join(" ") : value.scale;
  useEffect(() => {
    let current = true;
    api.key(`${value.tonic} ${scale}`).then(
      (r) => current && (setReport(r), setTrouble("")),
      (problem) => current && setTrouble(message(problem)),
    );
    return () => {
      current = false;
    };
  }, [value.tonic, scale]);
  if (!words) return null;
  return (
    <div>
      <div className={css.picker}>
        <div>
          <div className={css.tonics} role="group" aria-label="Tonic">
            {words.tonics.map((t) => <button key={t} className={css.choice} aria-pressed={t === value.tonic} onClick={() => onChange({ ...value, tonic: t })}>{sign(t)}</button>)}
          </div>
          <div style={{ marginTop: 14 }} className="quiet">Its notes</div>
          <div className={css.notes} data-testid="key-notes">{trouble ? <span style={{ color: "var(--wrong)" }}>{trouble}</span> : report?.notes.map((n) => <span key={n}>{n}</span>)}</div>
          <div className="quiet">Triads on its degrees</div>
          <div className={css.notes} style={{ fontSize: 12 }}>{report?.triads.map((c, i) => <span key={i}>{c.numeral}</span>)}</div>
          <label className="quiet" htmlFor="custom-scale">Or a scale of your own, as degrees</label>
          <input id="custom-scale" className="mono" style={{ width: "100%", height: 26, border: "1px solid var(--rule)", borderRadius: 3, background: "var(--leaf)" }} placeholder="1 2 b3 #4 5" value={custom} onChange={(e) => setCustom(e.target.value)}
            onKeyDown={(e) => e.key === "Enter" && custom.trim() && onChange({ ...value, scale: custom.trim().split(/\s+/) })}
            onBlur={() => custom.trim() && custom !== scale && onChange({ ...value, scale: custom.trim().split(/\s+/) })} />
        </div>
        <div className={css.scales} role="group" aria-label="Scale">
          {words.scales.map((s) => (
            <button key={s.name} ref={s.name === value.scale ? show : undefined} className={css.choice} aria-pressed={s.name === value.scale} onClick={() => (setCustom(""), onChange({ ...value, scale: s.name }))}>
              <span>{s.name}</span>
              <span>{s.degrees}</span>
            </button>
          ))}
        </div>
      </div>
    </div>
  );
}
