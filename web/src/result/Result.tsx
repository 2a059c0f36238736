import { many } from "../words";
import { memo, useLayoutEffect, useMemo, useRef } from "react";
import type { Clip as ClipView } from "../api/gen/view.gen";
import { seek } from "../state/player";
import { bendAt, bends, notesBetween } from "../canvas/drawing/geometry";
import { GUTTER } from "../canvas/drawing/ground";
import { Behind } from "../controls/Behind";
import { Playhead } from "../sheet/Playhead";
import { headerOf, useSheet, zoomOf } from "../state/sheet";
import { useApp } from "../state/store";
import { dyes, token } from "../theme";
import css from "./Result.module.css";
import { useLight } from "../light";

const HEIGHT = 84;

/** The lowest and the highest pitch that sounds. */
function spanOf(view: ClipView): [number, number] {
  let [low, high] = [127, 0];
  for (const lane of view.lanes)
    for (const n of lane.notes) [low, high] = [Math.min(low, n.pitch), Math.max(high, n.pitch)];
  return [low, high];
}

/** A note outside the sounding chord carries a small caret. */
function drawOutside(pen: CanvasRenderingContext2D, left: number, y: number): void {
  const { fillStyle } = pen;
  pen.globalAlpha = 1;
  pen.fillStyle = token("ink");
  pen.beginPath();
  pen.moveTo(left - 1, y - 8);
  pen.lineTo(left + 6, y - 8);
  pen.lineTo(left + 2.5, y - 3.5);
  pen.fill();
  pen.fillStyle = fillStyle;
}

/** Where a note would stand without the groove's template: a hair, and a line to the note. */
function drawStraight(pen: CanvasRenderingContext2D, from: number, to: number, y: number): void {
  pen.globalAlpha = 0.55;
  pen.fillRect(from - 0.5, y - 5, 1, 10);
  pen.fillRect(Math.min(from, to), y - 0.4, Math.abs(to - from), 0.8);
}

/** What will be in the file: all lanes that play, in true time on the sheet's axis,
 * and nothing else. It may come a frame after the sheet. */
export function Result() {
  return <Behind value={useApp((s) => s.view)}>{(late) => <ResultOf view={late} />}</Behind>;
}

const ResultOf = memo(function ResultOf({ view }: { view: ClipView | null }) {
  const light = useLight();
  const header = useSheet(headerOf);
  const width = useSheet((s) => s.width);
  const zoom = useSheet(zoomOf);
  const scroll = useSheet((s) => s.scroll);
  const canvas = useRef<HTMLCanvasElement>(null);
  const span = useMemo(() => (view ? spanOf(view) : null), [view]);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen || !view || !span || !zoom) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = Math.round(width * ratio);
    el.height = Math.round(HEIGHT * ratio);
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, width, HEIGHT);
    const x = (t: number) => t * zoom - scroll;
    const [low, high] = span;
    const y = (pitch: number) => HEIGHT - 8 - ((pitch - low) / Math.max(high - low, 12)) * (HEIGHT - 16);
    const [from, to] = [scroll / zoom, Math.min(view.ticks, (scroll + width) / zoom)];
    const every = Math.max(1, Math.ceil(12 / (view.barTicks * zoom)));
    pen.fillStyle = token("rule");
    const first = Math.floor(from / view.barTicks / every) * every;
    for (let t = first * view.barTicks; t <= to; t += view.barTicks * every) pen.fillRect(x(t) - 0.5, 0, 1, HEIGHT);
    view.lanes.forEach((lane, i) => {
      const outside = new Set(view.harmony?.outside[lane.id]);
      pen.strokeStyle = pen.fillStyle = token(dyes[i % dyes.length]!);
      notesBetween(lane, from, to, (n, index) => {
        const [left, right] = [x(n.at), x(n.at + n.length)];
        if (outside.has(index)) drawOutside(pen, left, y(n.pitch));
        const straight = lane.straight[index];
        if (straight !== undefined && straight !== n.at) drawStraight(pen, x(straight), left, y(n.pitch));
        pen.globalAlpha = 0.45 + (n.velocity / 127) * 0.55;
        if (!bends(lane)) {
          pen.fillRect(left, y(n.pitch) - 1.3, Math.max(right - left - 0.4, 1), 2.6);
          return;
        }
        const height = (t: number) => y(n.pitch + bendAt(lane, n, t));
        pen.lineWidth = 2.6;
        pen.beginPath();
        pen.moveTo(left, height(n.at));
        const pieces = Math.max(1, Math.min(24, Math.round((right - left) / 2)));
        for (let k = 1; k <= pieces; k++) {
          pen.lineTo(left + ((right - left) * k) / pieces, height(n.at + (n.length * k) / pieces - 1));
        }
        pen.stroke();
      });
    });
    pen.globalAlpha = 1;
    pen.fillStyle = token("rule-strong");
    if (x(view.ticks) <= width) pen.fillRect(x(view.ticks) - 1, 0, 1, HEIGHT);
  }, [view, span, width, zoom, scroll, light]);
  if (!view) return null;
  const notes = view.lanes.reduce((sum, lane) => sum + lane.notes.length, 0);
  const outside = Object.values(view.harmony?.outside ?? {}).reduce((sum, list) => sum + list.length, 0);
  return (
    <section className={css.result} aria-label="Result: what the file will hold">
      <div className={css.head} style={{ width: header + GUTTER + 4 }}>
        <b>Result</b>
        <span className="quiet">what the file holds</span>
        <span className="mono" style={{ fontSize: 11.5 }}>
          {view.whole ? view.lasts : many(Math.round(view.ticks / view.barTicks), "bar")} · {many(notes, "note")}
        </span>
        {outside > 0 && (
          <span className="quiet" style={{ fontSize: 11.5 }}>
            ▾ {outside} outside the chords
          </span>
        )}
      </div>
      <div style={{ position: "relative" }}>
        {notes === 0 && (
          <div className={css.silent}>
            {view.lanes.length
              ? (view.findings.find((f) => f.silent)?.message ?? "Nothing sounds: no lane has a note that plays.")
              : "Nothing sounds: the clip has no lanes yet."}
          </div>
        )}
        <canvas
          ref={canvas}
          style={{ width, height: HEIGHT, display: "block", cursor: "pointer" }}
          aria-hidden
          onPointerDown={(e) => {
            const tick = (e.clientX - e.currentTarget.getBoundingClientRect().left + scroll) / zoom;
            if (tick < view.ticks) seek(tick);
          }}
        />
        <Playhead left={0} main={false} />
      </div>
    </section>
  );
});
