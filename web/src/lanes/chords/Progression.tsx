import { useEffect, useRef, useState } from "react";
import { useSettled } from "../../controls/settled";
import type { ProgressionWord } from "../../api/gen/server.gen";
import { useProgression } from "../../api/queries";
import { giveBack } from "../../controls/hands";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { Bank } from "./Bank";
import type { ChordsLane } from "./chords";
import css from "./chords.module.css";
import { useChords } from "./state";

/** Cuts a text into words and what stands between them. */
const cut = (text: string): string[] => text.match(/[^\s|]+|[\s|]+/g) ?? [];
const isWord = (part: string): boolean => !/^[\s|]/.test(part);

/** The chord line: a progression is written here, and read as one types. */
export function Progression({ lane, view }: LaneProps<ChordsLane>) {
  const written = view.chart?.text ?? "";
  const [draft, setDraft] = useState<string | null>(null);
  const typing = draft !== null;
  const text = draft ?? written;
  const [shift, setShift] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const clip = useApp((s) => s.clip);
  const fieldId = `chord-line-${lane.id}`;
  const wanted = useChords((s) => s.line === lane.id);
  useEffect(() => {
    if (!wanted) return;
    useChords.getState().set({ line: "" });
    field.current?.focus();
  }, [wanted]);
  const asked = useSettled(text.trim(), 90);
  const reading = useProgression(id, version, clip, typing ? asked : "");
  // A reading of an older text stands only for the words that are still there.
  const words = typing ? readingOf(text, reading.data ?? []) : [];
  const wrong = words.find((w) => w.read?.problem);

  const leave = () => {
    setDraft(null);
    giveBack();
  };
  const write = async () => {
    const { edit } = useApp.getState();
    if (text.trim() === written) return leave();
    if (!(await edit([{ op: "chords.write", clip, lane: lane.id, text }]))) return;
    useApp.getState().set({ error: "" });
    useApp.getState().select([0], 0);
    leave();
  };
  return (
    <div className={css.line}>
      <label htmlFor={fieldId}>Chords</label>
      <div className={css.written}>
        <div className={css.mirror} aria-hidden style={{ transform: `translateX(${-shift}px)` }}>
          {cut(text).map((part, i) => (
            <span key={i} data-wrong={isWord(part) && words.some((w) => w.text === part && w.read?.problem)}>
              {part}
            </span>
          ))}
        </div>
        <input
          ref={field}
          id={fieldId}
          aria-label={`Chord line of ${lane.name}`}
          aria-invalid={wrong !== undefined}
          aria-describedby={`${fieldId}-read`}
          autoComplete="off"
          spellCheck={false}
          placeholder="i VI III VII, or F#m7 B/D#"
          value={text}
          onFocus={(e) => {
            setDraft(text);
            e.currentTarget.select();
          }}
          onBlur={() => text.trim() === written && setDraft(null)}
          onScroll={(e) => setShift(e.currentTarget.scrollLeft)}
          onChange={(e) => {
            // No chord begins with the sign that leads here.
            setDraft(e.target.value.replace(/^\//, ""));
            setShift(e.target.scrollLeft);
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter") void write();
            else if (e.key === "Escape") leave();
          }}
        />
      </div>
      <button className={css.go} disabled={!typing || text.trim() === written} onClick={() => void write()}>
        Write
      </button>
      <Bank lane={lane} />
      {typing && text.trim() === written && (
        <div className={css.read} id={`${fieldId}-read`} role="status" data-testid="chord-line-hint">
          Type chords here: Enter writes them, Esc goes back to the sheet, <span className="mono">/</span> leads here.
        </div>
      )}
      {typing && text.trim() !== "" && text.trim() !== written && (
        <div className={css.read} id={`${fieldId}-read`} role="status" data-testid="chord-line">
          {words.map((w, i) => (
            <span key={i} className={css.word} data-wrong={!!w.read?.problem}>
              {w.read && !w.read.problem ? (
                <>
                  <b>{w.read.symbol}</b> {w.read.numeral}
                </>
              ) : (
                w.text
              )}
            </span>
          ))}
          {wrong?.read && (
            <p>
              “{wrong.text}” is not a chord: {wrong.read.problem}
            </p>
          )}
          {reading.error && <p>{reading.error.message}</p>}
        </div>
      )}
    </div>
  );
}

interface Shown {
  text: string;
  read: ProgressionWord | undefined;
}

/** The words of a text, each with what was read of it. */
function readingOf(text: string, read: readonly ProgressionWord[]): Shown[] {
  const known = new Map(read.map((w) => [w.text, w]));
  return cut(text)
    .filter(isWord)
    .map((word) => ({ text: word, read: known.get(word) }));
}
