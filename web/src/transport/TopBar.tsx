import { useRef } from "react";
import { useLocation } from "wouter";
import { useShallow } from "zustand/react/shallow";
import { PHONE, type Room } from "../controls/room";
import { useFrames } from "../state/frames";
import { playPosition, togglePlay, usePlaying } from "../state/player";
import { setPiece } from "../state/actions";
import { hearOther, showOrder, useOrder } from "../order/state";
import { useApp } from "../state/store";
import type { App } from "../state/app";
import { facts } from "../api/facts";
import { Meter } from "../controls/Meter";
import { NumberBox } from "../controls/NumberBox";
import { later } from "../controls/later";
import { Popup } from "../controls/Popup";
import { TextBox } from "../controls/TextBox";
import { beatNames } from "./beats";
import css from "./TopBar.module.css";
import { LightChoice } from "../controls/LightChoice";

const GrooveFields = later(() => import("./Feel").then((m) => m.GrooveFields), 80);
const BeatFields = later(() => import("./Feel").then((m) => m.BeatFields), 80);

/** What the bar shows of the piece. */
const barOf = ({ piece, view, clip }: App) => ({
  title: piece!.title,
  tempo: piece!.tempo,
  meter: piece!.meter,
  swing: piece!.groove.swing,
  beat: piece!.beat.pattern,
  key: view?.key ?? piece!.key.tonic,
  clip: piece!.clips.find((c) => c.id === clip)?.name,
  seen: view !== null,
});

/** Whether all edits are kept. */
function Saved() {
  const saving = useApp((s) => (s.unsaved ? "Not saved" : s.saving ? "Saving" : "Saved"));
  return (
    <span className={css.saved} data-trouble={saving === "Not saved" || undefined} role="status" aria-label="Saving">
      {saving}
    </span>
  );
}

/** The bar over everything: the piece, its key and feel, playing and rendering. */
export function TopBar({ room = "wide" }: { room?: Room }) {
  const piece = useApp(useShallow(barOf));
  const fact = facts.piece;
  const undo = useApp((s) => s.undo);
  const redo = useApp((s) => s.redo);
  const set = useApp((s) => s.set);
  const walk = useApp((s) => s.walk);
  const playing = usePlaying();
  const [, go] = useLocation();
  const ordering = useOrder((s) => s.open);
  const ordered = useOrder((s) => s.live !== null);
  const editing = room !== "phone";
  return (
    <header className={css.bar} data-room={room}>
      <button className={css.plain} aria-label="All pieces" title="All pieces" onClick={() => go("/")}>
        <img src="/mark.svg" width={22} height={22} alt="" style={{ display: "block" }} />
      </button>
      <h1 className={css.heading}>
        <TextBox
          label="Title of the piece"
          className={css.title}
          value={piece.title}
          longest={fact.title.longest}
          onChange={(title) => setPiece({ title })}
        />
      </h1>
      {room !== "wide" && <DrawerButton of="index" name="Clips" title={piece.clip} />}
      {editing && room !== "wide" && <DrawerButton of="margin" name="Margin" />}
      {editing && (
        <>
          <button
            className={`${css.plain} ${css.key}`}
            onClick={() => set({ panel: "key" })}
            aria-label={`Key: ${piece.key}`}
          >
            {piece.key} ▾
          </button>
          <span className={css.field}>
            <NumberBox
              label="Tempo"
              value={piece.tempo}
              low={fact.tempo.low}
              high={fact.tempo.high}
              onChange={(tempo) => setPiece({ tempo })}
            />{" "}
            bpm
          </span>
          <span className={css.field}>
            <TextBox
              label="Meter"
              className="mono"
              style={{ textAlign: "center" }}
              value={piece.meter}
              onChange={(meter) => setPiece({ meter })}
            />
          </span>
          <Popup
            button={
              <button className={css.plain}>
                Groove {piece.swing > 50 ? <span className="mono">{piece.swing}</span> : null} ▾
              </button>
            }
            position="bottom-start"
            trapFocus
          >
            {() => <GrooveFields />}
          </Popup>
        </>
      )}
      <span className={css.grow} />
      <span className={css.group}>
        {editing && (
          <>
            <button
              className={css.plain}
              disabled={!undo}
              onClick={() => void walk("undo")}
              title={undo ? `Undo: ${undo}` : "Nothing to undo"}
              aria-label="Undo"
            >
              ↶
            </button>
            <button
              className={css.plain}
              disabled={!redo}
              onClick={() => void walk("redo")}
              title={redo ? `Redo: ${redo}` : "Nothing to redo"}
              aria-label="Redo"
            >
              ↷
            </button>
          </>
        )}
        <Saved />
      </span>
      <span className={css.group}>
        <button
          className={css.play}
          aria-pressed={playing}
          aria-label={playing ? "Stop" : "Play"}
          onClick={() => void togglePlay()}
        >
          {playing ? (
            <svg width="12" height="12">
              <rect width="12" height="12" rx="1.5" fill="currentColor" />
            </svg>
          ) : (
            <svg width="13" height="14">
              <path d="M1 1.2 12.4 7 1 12.8Z" fill="currentColor" />
            </svg>
          )}
        </button>
        {!ordering && <Clock />}
        {playing && ordering !== ordered && (
          <button
            className={css.plain}
            title={
              ordered
                ? "The running order plays: from the next bar on, hear this clip alone"
                : "The clip plays: from the next bar on, hear the running order"
            }
            onClick={hearOther}
          >
            {ordered ? "Clip alone" : "Hear the order"}
          </button>
        )}
        <Meter label="Level of everything" of={({ all }) => all} />
        {editing && (
          <button
            className={css.plain}
            aria-pressed={ordering}
            title="Which clips sound when (Shift O)"
            onClick={() => showOrder()}
          >
            Order
          </button>
        )}
        {editing && (
          <Popup
            button={<button className={css.plain}>{beatNames[piece.beat] ?? piece.beat} ▾</button>}
            position="bottom-end"
            trapFocus
          >
            {() => <BeatFields />}
          </Popup>
        )}
      </span>
      <span className={css.group}>
        <LightChoice className={css.plain} />
        <button className={css.plain} aria-label="Keys" title="All keys" onClick={() => set({ panel: "keys" })}>
          ?
        </button>
        <button className={css.main} onClick={() => set({ panel: "render" })} disabled={!piece.seen}>
          Render
        </button>
      </span>
      {!editing && (
        <p className={css.reading} role="note">
          Play, listen, mute, change clips and render here. Editing wants a window of {PHONE} pixels or more.
        </p>
      )}
    </header>
  );
}

/** Opens and closes what has no room beside the sheet. */
function DrawerButton({ of, name, title }: { of: "index" | "margin"; name: string; title?: string }) {
  const drawer = useApp((s) => s.drawer);
  return (
    <button
      className={css.plain}
      aria-expanded={drawer === of}
      aria-label={name}
      title={title}
      onClick={() => useApp.getState().set({ drawer: drawer === of ? null : of })}
    >
      {name} ▾
    </button>
  );
}

/** Bar and beat, while it plays. */
function Clock() {
  const el = useRef<HTMLSpanElement>(null);
  useFrames(() => {
    const { view } = useApp.getState();
    const { tick, scheduled, clicked, driven, tried } = playPosition();
    if (!el.current || !view) return;
    const bar = Math.floor(tick / view.barTicks) + 1;
    const beat = Math.floor((tick % view.barTicks) / view.beatTicks) + 1;
    const text = `${bar}.${beat}`;
    if (el.current.textContent !== text) el.current.textContent = text;
    for (const [name, count] of Object.entries({ scheduled, clicked, driven, tried }))
      if (el.current.dataset[name] !== String(count)) el.current.dataset[name] = String(count);
  });
  return (
    <span ref={el} className={`mono ${css.clock}`} aria-label="Position" data-testid="clock">
      1.1
    </span>
  );
}
