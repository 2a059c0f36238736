import type { Order } from "../api/gen/view.gen";
import { dyes, token } from "../theme";
import { endOf, type Live } from "./live";

export const ROW = 46;
export const RULER = 28;

export interface Sheet {
  view: Order;
  entries: readonly (Live & { number?: number })[];
  chosen: ReadonlySet<number>;
  /** Pixels a tick, and the first tick in sight. */
  scale: number;
  scroll: number;
  width: number;
  height: number;
  top: number;
  /** Where playing is; null: it is not. What begins later waits. */
  now: number | null;
  draft: { clip: string; at: number; for: number } | null;
  /** Entries that the hand moves: they are drawn over the others. */
  moving: ReadonlySet<number>;
  loop: { from: number; to: number } | null;
  cursor: number;
}

/** How tall the notes of a band are drawn. */
const INK = ROW - 18;

function hatch(pen: CanvasRenderingContext2D, x: number, y: number, w: number, h: number): void {
  pen.save();
  pen.beginPath();
  pen.rect(x, y, w, h);
  pen.clip();
  pen.beginPath();
  for (let at = x - h; at < x + w; at += 6) {
    pen.moveTo(at, y + h);
    pen.lineTo(at + h, y);
  }
  pen.stroke();
  pen.restore();
}

/** The rows of the miniatures. */
const ROWS = 24;

function notes(
  pen: CanvasRenderingContext2D,
  s: Sheet,
  e: Live,
  own: Order["clips"][number],
  y: number,
  x0: number,
  x1: number,
): void {
  const length = own.length || Number.POSITIVE_INFINITY;
  if (length * s.scale < 10) return;
  const from = own.length ? (e.from ?? 0) % own.length : (e.from ?? 0);
  const left = s.scroll + (x0 > 0 ? x0 / s.scale : 0);
  const right = s.scroll + x1 / s.scale;
  let start = e.at - from;
  if (own.length && left > start) start += Math.floor((left - start) / length) * length;
  for (; start < right; start += length) {
    for (let i = 0; i < own.marks.length; i += 3) {
      const at = start + own.marks[i]!;
      if (at < e.at || at >= Math.min(endOf(e), right)) continue;
      const wide = Math.max(Math.min(own.marks[i + 1]!, endOf(e) - at) * s.scale - 0.5, 1);
      pen.fillRect((at - s.scroll) * s.scale, y + INK - 2 - (own.marks[i + 2]! / (ROWS - 1)) * (INK - 4), wide, 2);
    }
    if (!Number.isFinite(length)) break;
  }
}

/** Draws one entry. */
function entry(
  pen: CanvasRenderingContext2D,
  s: Sheet,
  rows: ReadonlyMap<string, number>,
  e: Live & { number?: number },
  ghost = false,
): void {
  const { view, scale, scroll, width } = s;
  const x = (tick: number) => (tick - scroll) * scale;
  const row = rows.get(e.clip);
  if (row === undefined) return;
  const y = row * ROW - s.top + 7;
  if (y > s.height || y < -ROW) return;
  const from = x(e.at);
  const to = Math.min(x(Math.min(endOf(e), scroll + (width + 20) / scale)), width + 20);
  if (to < 0 || from > width) return;
  const own = view.clips[row]!;
  const hue = token(dyes[row % dyes.length]!);
  const silent = ghost || (e.number !== undefined && !!s.view.entries[e.number - 1]?.silent);
  const waits = s.now !== null && e.at > s.now;
  pen.globalAlpha = silent ? 0.1 : waits ? 0.14 : 0.24;
  pen.fillStyle = hue;
  pen.fillRect(from, y, Math.max(to - from - 1, 2), INK + 4);
  pen.globalAlpha = 1;
  pen.strokeStyle = hue;
  if (silent || waits) {
    pen.globalAlpha = 0.5;
    hatch(pen, Math.max(from, 0), y, Math.max(to - Math.max(from, 0) - 1, 2), INK + 4);
    pen.globalAlpha = 1;
  }
  pen.fillStyle = hue;
  pen.fillRect(from, y, 3, INK + 4);
  if (!silent) notes(pen, s, e, own, y + 2, Math.max(from, 0), Math.min(to, width));
  const length = own.length;
  if (length * scale > 5) {
    pen.setLineDash([2, 3]);
    pen.beginPath();
    const first = e.at - ((e.from ?? 0) % length) + length;
    const left = Math.max(first, first + Math.floor((scroll - first) / length) * length);
    for (let at = left; at < Math.min(endOf(e), scroll + width / scale); at += length) {
      pen.moveTo(x(at), y);
      pen.lineTo(x(at), y + INK + 4);
    }
    pen.stroke();
    pen.setLineDash([]);
  }
  const words = [
    e.shift ? `${e.shift > 0 ? "+" : "−"}${Math.abs(e.shift)}` : "",
    e.mute?.length ? `${e.mute.length} muted` : "",
  ]
    .filter(Boolean)
    .join("  ");
  if (words && to - Math.max(from, 0) > 34) {
    pen.font = "600 11px 'IBM Plex Mono', monospace";
    pen.fillStyle = token("paper");
    pen.globalAlpha = 0.85;
    pen.fillRect(Math.max(from, 0) + 5, y + 1, pen.measureText(words).width + 6, 13);
    pen.globalAlpha = 1;
    pen.fillStyle = token("ink");
    pen.fillText(words, Math.max(from, 0) + 8, y + 11);
  }
  if (e.number !== undefined && s.chosen.has(e.number)) {
    pen.strokeStyle = token("ink");
    pen.lineWidth = 2;
    pen.strokeRect(from + 1, y - 1, Math.max(to - from - 3, 2), INK + 6);
    pen.fillStyle = token("now");
    pen.fillRect(from, y - 4, Math.max(to - from - 1, 2), 3);
    pen.lineWidth = 1;
  }
}

/** Draws the bands: what was played to the left of now, what will be to the right. */
export function draw(pen: CanvasRenderingContext2D, s: Sheet): void {
  const { view, scale, scroll, width } = s;
  const x = (tick: number) => (tick - scroll) * scale;
  pen.clearRect(0, 0, width, s.height);
  const rows = new Map(view.clips.map((c, i) => [c.id, i]));
  const bar = view.barTicks;
  const step = bar * Math.max(1, 2 ** Math.ceil(Math.log2(14 / (bar * scale))));
  for (let at = Math.floor(scroll / step) * step; x(at) < width; at += step) {
    pen.fillStyle = token(at % (4 * step) === 0 ? "rule" : "paper-2");
    pen.fillRect(Math.round(x(at)), 0, 1, s.height);
  }
  if (view.beatTicks * scale >= 10) {
    pen.fillStyle = token("paper-3");
    for (let at = Math.floor(scroll / bar) * bar; x(at) < width; at += view.beatTicks)
      if (at % bar) pen.fillRect(Math.round(x(at)), 0, 1, s.height);
  }
  pen.fillStyle = token("rule");
  for (let i = 1; i <= view.clips.length; i++) pen.fillRect(0, i * ROW - s.top, width, 1);
  if (s.loop) {
    pen.fillStyle = token("now-soft");
    pen.globalAlpha = 0.35;
    pen.fillRect(x(s.loop.from), 0, (s.loop.to - s.loop.from) * scale, s.height);
    pen.globalAlpha = 1;
  }
  // What was brought in and waits is hatched up to where it takes hold.
  for (const e of s.entries) {
    const row = rows.get(e.clip);
    if (s.now === null || !e.open || e.goesOn || e.at <= s.now || row === undefined) continue;
    pen.strokeStyle = token("rule-strong");
    hatch(pen, Math.max(x(s.now), 0), row * ROW - s.top + 7, x(e.at) - Math.max(x(s.now), 0), INK + 4);
  }
  for (const e of s.entries)
    if (x(e.at) < width && x(endOf(e)) > 0 && !(e.number !== undefined && s.moving.has(e.number)))
      entry(pen, s, rows, e);
}

/** Draws what the hand has hold of, over the bands. */
export function drawMoving(pen: CanvasRenderingContext2D, s: Sheet): void {
  pen.clearRect(0, 0, s.width, s.height);
  const rows = new Map(s.view.clips.map((c, i) => [c.id, i]));
  for (const e of s.entries) if (e.number !== undefined && s.moving.has(e.number)) entry(pen, s, rows, e);
  if (s.draft) entry(pen, s, rows, { ...s.draft }, true);
}

/** Draws the bars over the bands, with the stretch that is looped and where playing begins. */
export function ruler(pen: CanvasRenderingContext2D, s: Sheet): void {
  const { view, scale, scroll, width } = s;
  const x = (tick: number) => (tick - scroll) * scale;
  pen.clearRect(0, 0, width, RULER);
  pen.font = "12px 'IBM Plex Mono', monospace";
  const bar = view.barTicks;
  const step = bar * Math.max(1, 2 ** Math.ceil(Math.log2(34 / (bar * scale))));
  if (s.loop) {
    pen.fillStyle = token("now");
    pen.fillRect(x(s.loop.from), RULER - 7, (s.loop.to - s.loop.from) * scale, 5);
  }
  pen.fillStyle = token("ink");
  for (let at = Math.floor(scroll / step) * step; x(at) < width; at += step) {
    pen.fillRect(Math.round(x(at)), 14, 1, RULER - 14);
    pen.fillText(String(at / bar + 1), Math.round(x(at)) + 4, 13);
  }
  const c = x(s.cursor);
  pen.beginPath();
  pen.moveTo(c - 5, RULER - 9);
  pen.lineTo(c + 5, RULER - 9);
  pen.lineTo(c, RULER);
  pen.fill();
}
