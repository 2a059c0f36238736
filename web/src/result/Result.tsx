import { useLayoutEffect, useRef } from "react";
import { seek } from "../audio/player";
import { useApp } from "../state/store";
import { dyes, token } from "../theme";
import { bendAt } from "../sheet/geometry";
import { Playhead } from "../sheet/Playhead";
import { GUTTER, HEADER, useSheet } from "../sheet/sheetState";
import css from "./Result.module.css";

const HEIGHT = 84;

/** What will be in the file: all lanes that play, in true time, and nothing else. */
export function Result() {
  const view = useApp((s) => s.view);
  const width = useSheet((s) => s.width);
  const zoom = useSheet((s) => s.zoom);
  const scroll = useSheet((s) => s.scroll);
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen || !view || !width) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = Math.round(width * ratio);
    el.height = Math.round(HEIGHT * ratio);
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, width, HEIGHT);
    const x = (t: number) => (t / view.ticks) * width;
    let [low, high] = [127, 0];
    for (const lane of view.lanes) for (const n of lane.notes) [low, high] = [Math.min(low, n[2]), Math.max(high, n[2])];
    const y = (pitch: number) => HEIGHT - 8 - ((pitch - low) / Math.max(high - low, 12)) * (HEIGHT - 16);
    if (width / zoom < view.ticks * 0.999) {
      pen.fillStyle = token("paper-3");
      pen.fillRect(x(scroll / zoom), 0, Math.max((width / zoom / view.ticks) * width, 2), HEIGHT);
    }
    const every = Math.max(1, Math.ceil(view.ticks / view.barTicks / (width / 12)));
    pen.fillStyle = token("rule");
    for (let t = 0; t <= view.ticks; t += view.barTicks * every) pen.fillRect(x(t), 0, 1, HEIGHT);
    view.lanes.forEach((lane, i) => {
      pen.strokeStyle = pen.fillStyle = token(dyes[i % dyes.length]);
      for (const [at, length, pitch, velocity] of lane.notes) {
        pen.globalAlpha = 0.45 + (velocity / 127) * 0.55;
        if (!lane.bends.length) {
          pen.fillRect(x(at), y(pitch) - 1.3, Math.max(x(at + length) - x(at) - 0.4, 1), 2.6);
          continue;
        }
        pen.lineWidth = 2.6;
        pen.beginPath();
        pen.moveTo(x(at), y(pitch + bendAt(lane, at)));
        const pieces = Math.max(1, Math.min(24, Math.round((x(at + length) - x(at)) / 2)));
        for (let k = 1; k <= pieces; k++) pen.lineTo(x(at + (length * k) / pieces), y(pitch + bendAt(lane, at + (length * k) / pieces - 1)));
        pen.stroke();
      }
    });
    pen.globalAlpha = 1;
  });
  if (!view) return null;
  const notes = view.lanes.reduce((sum, lane) => sum + lane.notes.length, 0);
  return (
    <section className={css.result} aria-label="Result: what the file will hold">
      <div className={css.head} style={{ width: HEADER + GUTTER + 4 }}>
        <b>Result</b>
        <span className="quiet">what the file holds</span>
        <span className="mono" style={{ fontSize: 11.5 }}>{view.whole ? view.bars : Math.round(view.ticks / view.barTicks)} bars · {notes} notes</span>
      </div>
      <div style={{ position: "relative" }}>
        {notes === 0 && <div className={css.silent}>{view.lanes.length ? "Nothing sounds: no lane has a note that plays. Click on a ladder above." : "Nothing sounds: the clip has no lanes yet."}</div>}
        <canvas ref={canvas} style={{ width, height: HEIGHT, display: "block", cursor: "pointer" }} aria-hidden
          onPointerDown={(e) => {
            const box = e.currentTarget.getBoundingClientRect();
            const tick = ((e.clientX - box.left) / box.width) * view.ticks;
            seek(tick);
            const bar = document.querySelector<HTMLElement>('[aria-label="Time"]');
            if (bar) bar.scrollLeft = tick * zoom - width / 2;
          }} />
        <Playhead left={0} inSheet={false} />
      </div>
    </section>
  );
}
