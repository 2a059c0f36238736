import { Menu } from "@mantine/core";
import { useLayoutEffect, useRef } from "react";
import { api } from "../api/client";
import type { Thumb } from "../api/gen/view.gen";
import { NumberBox } from "../app/NumberBox";
import { setClip } from "../state/actions";
import { clipOf, useApp } from "../state/store";
import { usePlaying } from "../audio/player";
import { token } from "../theme";
import css from "./Index.module.css";

/** The clips as the tabs of a notebook, each with its result in miniature. */
export function Index() {
  const thumbs = useApp((s) => s.thumbs);
  const clip = useApp((s) => s.clip);
  const doc = useApp(clipOf);
  const id = useApp((s) => s.id);
  const openClip = useApp((s) => s.openClip);
  const playing = usePlaying();
  return (
    <nav className={css.index} aria-label="Clips">
      <div className={css.tabs} role="tablist" aria-orientation="vertical">
        {thumbs.map((t) => (
          <button key={t.id} role="tab" className={css.tab} aria-label={t.name} aria-selected={t.id === clip} onClick={() => void openClip(t.id)} title={`${t.name}, ${t.key}`}>
            <span className={css.name}>{t.name}</span>
            <Miniature thumb={t} />
            <span className={css.facts}>{t.bars} {t.bars === "1" ? "bar" : "bars"}{playing && t.id === clip ? " · plays" : t.plays ? "" : " · silent"}</span>
          </button>
        ))}
        <button className={css.add} onClick={() => useApp.getState().set({ panel: "clip" })}>New clip</button>
      </div>
      {doc && <ClipSettings key={doc.id} />}
      <a className={css.export} href={api.documentUrl(id)} download>Save piece as a file</a>
    </nav>
  );
}

function ClipSettings() {
  const doc = useApp(clipOf)!;
  const view = useApp((s) => s.view);
  const words = useApp((s) => s.words);
  const run = (op: string, by?: number) => void useApp.getState().edit([{ op, clip: doc.id, by }]);
  const clips = useApp((s) => s.piece?.clips ?? []);
  const at = clips.findIndex((c) => c.id === doc.id) + 1;
  return (
    <div className={css.settings}>
      <label>
        Name
        <input aria-label="Name of the clip" defaultValue={doc.name} key={doc.name} maxLength={80}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Enter") e.currentTarget.blur();
          }}
          onBlur={(e) => e.target.value.trim() && e.target.value !== doc.name && setClip({ name: e.target.value.trim() })} />
      </label>
      <label>
        Ends
        <select aria-label="Where the clip ends" title="After a number of bars, after the lanes' full cycle, or when that meets the bar line" value={doc.bars ? "bars" : doc.until} onChange={(e) => setClip(e.target.value === "bars" ? { bars: Math.max(1, Math.round((view?.ticks ?? 0) / (view?.barTicks ?? 1))) } : { until: e.target.value })}>
          <option value="bars">after … bars</option>
          <option value="cycle">after a cycle</option>
          <option value="realign">at the bar</option>
        </select>
      </label>
      {doc.bars ? <label>Bars<NumberBox label="Bars of the clip" value={doc.bars} low={1} high={words?.maxBars ?? 1024} onChange={(bars) => setClip({ bars })} /></label> : null}
      <Menu position="right-end">
        <Menu.Target><button className={css.more}>More ▸</button></Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => run("clip.copy")}>Duplicate the clip</Menu.Item>
          <Menu.Item disabled={at <= 1} onClick={() => run("clip.move", at - 1)}>Move up</Menu.Item>
          <Menu.Item disabled={at >= clips.length} onClick={() => run("clip.move", at + 1)}>Move down</Menu.Item>
          <Menu.Divider />
          <Menu.Item onClick={() => run("clip.remove")}>Remove the clip</Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}

function Miniature({ thumb }: { thumb: Thumb }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    const ratio = window.devicePixelRatio || 1;
    const [w, h] = [104, 26];
    el.width = w * ratio;
    el.height = h * ratio;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, w, h);
    const pitches = thumb.notes.map((n) => n[2]);
    const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
    const span = Math.min(thumb.ticks, 4 * 3840);
    pen.fillStyle = token("ink");
    for (const [at, length, pitch] of thumb.notes) {
      pen.fillRect((at / span) * w, h - 3 - ((pitch - low) / Math.max(high - low, 1)) * (h - 6), Math.max((length / span) * w - 0.5, 1), 1.8);
    }
  });
  return <canvas ref={canvas} style={{ width: 104, height: 26, display: "block" }} aria-hidden />;
}
