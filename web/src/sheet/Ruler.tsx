import { useLayoutEffect, useRef } from "react";
import type { Clip as ClipView } from "../api/gen/view.gen";
import { token } from "../theme";
import { seek } from "../state/player";
import { GUTTER } from "../canvas/drawing/ground";
import { useSheet, zoomOf } from "../state/sheet";
import { useLight } from "../light";

const HEIGHT = 40;

/** Bars and beats, and under them the line that says when all lanes meet. */
export function Ruler({ clip }: { clip: ClipView }) {
  const light = useLight();
  const canvas = useRef<HTMLCanvasElement>(null);
  const zoom = useSheet(zoomOf);
  const scroll = useSheet((s) => s.scroll);
  const width = useSheet((s) => s.width);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen || !zoom) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = Math.round((width + GUTTER) * ratio);
    el.height = Math.round(HEIGHT * ratio);
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, width + GUTTER, HEIGHT);
    const x = (t: number) => GUTTER + t * zoom - scroll;
    pen.beginPath();
    pen.rect(GUTTER, 0, width, HEIGHT);
    pen.clip();
    pen.textBaseline = "middle";
    const barWidth = clip.barTicks * zoom;
    const every = Math.max(1, 2 ** Math.ceil(Math.log2(34 / barWidth)));
    for (
      let bar = Math.max(0, Math.floor(scroll / barWidth));
      bar * clip.barTicks < clip.reach && x(bar * clip.barTicks) < width + GUTTER;
      bar++
    ) {
      const left = x(bar * clip.barTicks);
      pen.fillStyle = token("rule-strong");
      pen.fillRect(left - 0.5, 4, 1, HEIGHT);
      if (bar % every === 0) {
        pen.fillStyle = token("ink");
        pen.font = `500 12px ${token("mono")}`;
        pen.fillText(String(bar + 1), left + 5, 11);
      }
      if (clip.beatTicks * zoom > 14) {
        for (let t = clip.beatTicks; t < clip.barTicks; t += clip.beatTicks) {
          pen.fillStyle = token("rule-strong");
          pen.fillRect(x(bar * clip.barTicks + t), 13, 1, 6);
        }
      }
    }
    // The meeting line: a thin rule with a knot where the lanes meet.
    const knot = clip.meetTicks > 0 ? x(clip.meetTicks) : Number.POSITIVE_INFINITY;
    pen.fillStyle = token("ink-2");
    pen.fillRect(GUTTER - scroll, 29.5, Math.min(knot, x(clip.ticks)) - GUTTER + scroll, 1);
    for (let t = clip.meetTicks; t > 0 && t <= clip.ticks && x(t) <= GUTTER + width + 8; t += clip.meetTicks) {
      pen.save();
      pen.translate(t === clip.ticks ? x(t) - 5 : x(t), 30);
      pen.rotate(Math.PI / 4);
      pen.fillStyle = token("ink");
      pen.fillRect(-3.5, -3.5, 7, 7);
      pen.restore();
      if (clip.meetTicks * zoom < 12) break;
    }
  }, [clip.ticks, clip.reach, clip.barTicks, clip.beatTicks, clip.meetTicks, zoom, scroll, width, light]);
  return (
    <canvas
      ref={canvas}
      style={{ width: width + GUTTER, height: HEIGHT, display: "block", cursor: "pointer" }}
      aria-hidden
      onPointerDown={(e) => {
        const at = (e.clientX - e.currentTarget.getBoundingClientRect().left - GUTTER + scroll) / zoom;
        if (at >= 0 && at < clip.ticks) seek(at);
      }}
    />
  );
}
