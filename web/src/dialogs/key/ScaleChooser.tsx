import { useKey } from "../../api/queries";
import type { Key } from "../../api/gen/piece.gen";
import { rove, tabOf } from "../../controls/roving";
import { TextBox } from "../../controls/TextBox";
import { useApp } from "../../state/store";
import css from "./key.module.css";

const show = (el: HTMLElement | null) => el?.scrollIntoView({ block: "nearest" });

/** Chooses a tonic and a scale, and shows the notes they give. */
export function ScaleChooser({ value, onChange }: { value: Key; onChange: (key: Key) => void }) {
  const words = useApp((s) => s.words);
  const scale = Array.isArray(value.scale) ? value.scale.join(" ") : value.scale;
  const { data: report, error } = useKey(`${value.tonic} ${scale}`);
  if (!words) return null;
  const isTonic = (t: { tonic: string }) => t.tonic === value.tonic;
  const isScale = (s: { name: string }) => s.name === value.scale;
  return (
    <div>
      <div className={css.picker}>
        <div>
          <div className={css.tonics} role="group" aria-label="Tonic" onKeyDown={rove}>
            {words.tonics.map((t, i) => (
              <button
                type="button"
                key={t.tonic}
                className={css.choice}
                aria-pressed={t.tonic === value.tonic}
                tabIndex={tabOf(t.tonic === value.tonic, words.tonics.some(isTonic), i === 0)}
                onClick={() => onChange({ ...value, tonic: t.tonic })}
              >
                {t.name}
              </button>
            ))}
          </div>
          <div style={{ marginTop: 14 }} className="quiet">
            Its notes
          </div>
          <div className={css.notes} data-testid="key-notes">
            {error ? (
              <span style={{ color: "var(--wrong)" }}>{error.message}</span>
            ) : (
              report?.notes.map((n) => <span key={n}>{n}</span>)
            )}
          </div>
          <div className="quiet">Triads on its degrees</div>
          <div className={css.notes} style={{ fontSize: 12 }}>
            {report?.triads.map((c, i) => (
              <span key={i}>{c.numeral}</span>
            ))}
          </div>
          <label className="quiet" htmlFor="custom-scale">
            Or a scale of your own, as degrees
          </label>
          <TextBox
            id="custom-scale"
            label="Or a scale of your own, as degrees"
            className="mono"
            style={{
              width: "100%",
              height: 26,
              border: "1px solid var(--rule)",
              borderRadius: 3,
              background: "var(--leaf)",
            }}
            holds
            placeholder="1 2 b3 #4 5"
            value={Array.isArray(value.scale) ? scale : ""}
            onChange={(text) => onChange({ ...value, scale: text.split(/\s+/) })}
          />
        </div>
        <div className={css.scales} role="group" aria-label="Scale" onKeyDown={rove}>
          {words.scales.map((s, i) => (
            <button
              type="button"
              key={s.name}
              ref={s.name === value.scale ? show : undefined}
              className={css.choice}
              aria-pressed={s.name === value.scale}
              tabIndex={tabOf(s.name === value.scale, words.scales.some(isScale), i === 0)}
              onClick={() => onChange({ ...value, scale: s.name })}
            >
              <span>{s.name}</span>
              <span>{s.degrees}</span>
            </button>
          ))}
        </div>
      </div>
    </div>
  );
}
