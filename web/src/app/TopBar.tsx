import { Popover } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { playPosition, togglePlay, usePlaying } from "../audio/player";
import { setPiece } from "../state/actions";
import { useApp } from "../state/store";
import { NumberBox } from "./NumberBox";
import { Choice } from "../sheet/LaneHeader";
import css from "./App.module.css";

const beatNames: Record<string, string> = { off: "No beat", four: "Four on the floor", half: "Half-time", broken: "Broken" };

/** The bar over everything: the piece, its key and feel, playing and rendering. */
export function TopBar() {
  const piece = useApp((s) => s.piece)!;
  const view = useApp((s) => s.view);
  const words = useApp((s) => s.words);
  const undo = useApp((s) => s.undo);
  const redo = useApp((s) => s.redo);
  const saving = useApp((s) => s.saving);
  const set = useApp((s) => s.set);
  const walk = useApp((s) => s.walk);
  const audition = useApp((s) => s.audition);
  const playing = usePlaying();
  return (
    <header className={css.bar}>
      <button className={css.plain} aria-label="All pieces" title="All pieces" onClick={() => window.location.assign("/")}>
        <img src="/mark.svg" width={22} height={22} alt="" style={{ display: "block" }} />
      </button>
      <Title value={piece.title} />
      <button className={`${css.plain} ${css.key}`} onClick={() => set({ panel: "key" })} aria-label={`Key: ${view?.key ?? ""}`}>{view?.key ?? `${piece.key.tonic}`} ▾</button>
      <span className={css.field}>
        <NumberBox label="Tempo" value={piece.tempo} low={20} high={400} onChange={(tempo) => setPiece({ tempo })} /> bpm
      </span>
      <Meter value={piece.meter} />
      <Popover position="bottom-start">
        <Popover.Target><button className={css.plain}>Groove {piece.groove.swing > 50 ? <span className="mono">{piece.groove.swing}</span> : null} ▾</button></Popover.Target>
        <Popover.Dropdown>
          <div className={css.popover}>
            <label htmlFor="swing">Swing %</label>
            <NumberBox id="swing" label="Swing" value={piece.groove.swing} low={50} high={75} onChange={(swing) => setPiece({ groove: { swing } })} />
            <label htmlFor="grid">Pairs of</label>
            <Choice id="grid" label="Swing grid" value={piece.groove.grid} all={words?.swingGrids ?? []} onChange={(grid) => setPiece({ groove: { grid } })} />
            <label htmlFor="seed">Seed</label>
            <NumberBox id="seed" label="Seed of chance" value={piece.seed} low={0} high={9007199254740991} onChange={(seed) => setPiece({ seed })} />
          </div>
        </Popover.Dropdown>
      </Popover>
      <span className={css.grow} />
      <button className={css.plain} disabled={!undo} onClick={() => void walk("undo")} title={undo ? `Undo: ${undo}` : "Nothing to undo"} aria-label="Undo">↶</button>
      <button className={css.plain} disabled={!redo} onClick={() => void walk("redo")} title={redo ? `Redo: ${redo}` : "Nothing to redo"} aria-label="Redo">↷</button>
      <span className={css.saved} role="status" aria-label="Saving">{saving ? "Saving" : "Saved"}</span>
      <button className={css.play} aria-pressed={playing} aria-label={playing ? "Stop" : "Play"} onClick={() => void togglePlay()}>
        {playing ? <svg width="12" height="12"><rect width="12" height="12" rx="1.5" fill="currentColor" /></svg> : <svg width="13" height="14"><path d="M1 1.2 12.4 7 1 12.8Z" fill="currentColor" /></svg>}
      </button>
      <Clock />
      <Popover position="bottom-end">
        <Popover.Target><button className={css.plain}>{beatNames[piece.beat.pattern]} ▾</button></Popover.Target>
        <Popover.Dropdown>
          <div className={css.popover}>
            <label htmlFor="beat">Beat</label>
            <select id="beat" aria-label="Backing beat" value={piece.beat.pattern} onChange={(e) => setPiece({ beat: { pattern: e.target.value } })}>
              {(words?.beats ?? []).map((b) => <option key={b} value={b}>{beatNames[b] ?? b}</option>)}
            </select>
            <label htmlFor="beat-level">Level</label>
            <NumberBox id="beat-level" label="Beat level" value={piece.beat.level} low={0} high={100} onChange={(level) => setPiece({ beat: { level } })} />
            <label htmlFor="audition">Sound notes when clicked</label>
            <input id="audition" type="checkbox" checked={audition} onChange={(e) => set({ audition: e.target.checked })} style={{ justifySelf: "start", accentColor: "var(--ink)" }} />
          </div>
        </Popover.Dropdown>
      </Popover>
      <button className={css.plain} aria-label="Keys" title="All keys" onClick={() => set({ panel: "keys" })}>?</button>
      <button className={css.main} onClick={() => set({ panel: "render" })} disabled={!view}>Render</button>
    </header>
  );
}

function Title({ value }: { value: string }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <input
      className={css.title}
      aria-label="Title of the piece"
      value={text}
      maxLength={120}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => (text.trim() && text !== value ? setPiece({ title: text.trim() }) : setText(value))}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}

function Meter({ value }: { value: string }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const send = () => {
    if (text !== value) setPiece({ meter: text });
    setText(value);
  };
  return (
    <span className={css.field}>
      <input className="mono" aria-label="Meter" style={{ textAlign: "center" }} value={text} onChange={(e) => setText(e.target.value)} onBlur={send}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter") send();
        }} />
    </span>
  );
}

/** Bar and beat, while it plays. */
function Clock() {
  const el = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let frame = 0;
    const step = () => {
      const { view } = useApp.getState();
      const { tick, scheduled } = playPosition();
      if (el.current && view) {
        const bar = Math.floor(tick / view.barTicks) + 1;
        const beat = Math.floor((tick % view.barTicks) / view.beatTicks) + 1;
        el.current.textContent = `${bar}.${beat}`;
        el.current.dataset.scheduled = String(scheduled);
      }
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, []);
  return <span ref={el} className={`mono ${css.clock}`} aria-label="Position" data-testid="clock">1.1</span>;
}
