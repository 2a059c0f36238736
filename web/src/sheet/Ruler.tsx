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
  const loop = useSheet((s) => s.loop);
  const drag = useRef<Drag | null>(null);
  /** Loops are of whole bars, or of beats where the clip has but one bar. */
  const unit = clip.ticks > clip.barTicks ? clip.barTicks : clip.beatTicks;
  const tickAt = (e: React.PointerEvent) =>
    (e.clientX - e.currentTarget.getBoundingClientRect().left - GUTTER + scroll) / zoom;
  /** What of the loop is under a place: an end, its inside, or nothing. */
  const under = (tick: number): Drag["what"] => {
    const near = 5 / zoom;
    if (loop && Math.abs(loop.from - tick) < near) return "from";
    if (loop && Math.abs(loop.to - tick) < near) return "to";
    return loop && tick > loop.from && tick < loop.to ? "all" : "new";
  };
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
    if (loop) {
      pen.fillStyle = token("now");
      pen.globalAlpha = 0.35;
      pen.fillRect(x(loop.from), 0, (loop.to - loop.from) * zoom, 20);
      pen.globalAlpha = 1;
      for (const at of [loop.from, loop.to]) pen.fillRect(x(at) - 1, 0, 2, 20);
    }
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
  }, [clip.ticks, clip.reach, clip.barTicks, clip.beatTicks, clip.meetTicks, zoom, scroll, width, light, loop]);
  return (
    <canvas
      ref={canvas}
      style={{ width: width + GUTTER, height: HEIGHT, display: "block", cursor: "pointer" }}
      aria-hidden
      data-loop={loop ? `${loop.from} ${loop.to}` : undefined}
      title="Press to play from here; drag to loop these bars, Esc lets go"
      onPointerDown={(e) => {
        const at = tickAt(e);
        if (at < 0 || at >= clip.ticks) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { what: under(at), at, x: e.clientX, was: loop };
      }}
      onPointerMove={(e) => {
        const at = tickAt(e);
        const held = drag.current;
        if (!held) {
          e.currentTarget.style.cursor = ["from", "to"].includes(under(at)) ? "ew-resize" : "pointer";
          return;
        }
        if (Math.abs(e.clientX - held.x) > 3) held.moved = true;
        if (held.moved) useSheet.getState().set({ loop: pulled(held, at, unit, clip.ticks) });
      }}
      onPointerUp={() => {
        const held = drag.current;
        drag.current = null;
        if (held && !held.moved) seek(held.at);
      }}
      onPointerCancel={() => {
        if (drag.current) useSheet.getState().set({ loop: drag.current.was });
        drag.current = null;
      }}
    />
  );
}

type Loop = { from: number; to: number };

/** A hand on the ruler: what it holds, where it began, and the loop that was there. */
interface Drag {
  what: "new" | "from" | "to" | "all";
  at: number;
  x: number;
  was: Loop | null;
  moved?: boolean;
}

/** The loop as a hand has pulled it to a tick, by whole units, within a clip of so many ticks. */
function pulled({ what, at, was }: Drag, to: number, unit: number, ticks: number): Loop {
  const last = Math.floor((ticks - 1) / unit);
  const cell = (tick: number) => Math.min(Math.max(Math.floor(tick / unit), 0), last);
  const end = (tick: number) => Math.min(tick, ticks);
  if (what === "new" || !was) {
    const [low, high] = [cell(Math.min(at, to)), cell(Math.max(at, to))];
    return { from: low * unit, to: end((high + 1) * unit) };
  }
  if (what === "from") return { from: Math.min(cell(to + unit / 2) * unit, was.to - unit), to: was.to };
  if (what === "to") return { from: was.from, to: end(Math.max(Math.round(to / unit) * unit, was.from + unit)) };
  const by = Math.round((to - at) / unit) * unit;
  const room = Math.min(Math.max(by, -was.from), ticks - was.to);
  return { from: was.from + room, to: was.to + room };
}
