import type { ChordMark } from "../../api/gen/render.gen";
import type { Lane } from "../../api/gen/schema.gen";
import { weightOf } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { lastAt } from "../../sorted";
import { token } from "../../theme";

/** Height of the strip of chords' names over a ladder, and over a closed band. */
export const STRIP = 34;
export const STRIP_CLOSED = 18;

/** Calls back for the chords in sight, each with its place in the list. */
export function marksBetween(
  p: Picture<Lane>,
  from: number,
  to: number,
  each: (mark: ChordMark, i: number) => void,
): void {
  const marks = p.view.chart?.marks ?? [];
  for (
    let i = Math.max(
      lastAt(marks, (m) => m.at, from),
      0,
    );
    i < marks.length && marks[i]!.at <= to;
    i++
  )
    each(marks[i]!, i);
}

/** The strip of names: the symbol large, the numeral small, as long as it is held. */
export function drawStrip(pen: Pen, p: Picture<Lane>, { x, from, to }: Axis): void {
  const height = p.band.open ? STRIP : STRIP_CLOSED;
  pen.textBaseline = "alphabetic";
  pen.textAlign = "left";
  pen.fillStyle = token("paper");
  pen.globalAlpha = 0.86;
  pen.fillRect(x(from), 3, x(to) - x(from), height - 4);
  pen.globalAlpha = 1;
  marksBetween(p, from, to, (mark) => {
    const [left, right] = [x(mark.at), x(mark.until)];
    const selected = p.selection.has(mark.step);
    pen.save();
    pen.beginPath();
    pen.rect(left, 0, Math.max(right - left, 8), height);
    pen.clip();
    if (selected) {
      pen.fillStyle = token("now-soft");
      pen.fillRect(left, 3, right - left, height - 4);
    }
    pen.globalAlpha = Math.max(weightOf(p, mark.at), 0.62);
    pen.fillStyle = token("ink");
    pen.font = `600 ${p.band.open ? 17 : 12.5}px ${token("sans")}`;
    const base = p.band.open ? 20 : 14;
    pen.fillText(mark.symbol, left + 6, base);
    const wide = pen.measureText(mark.symbol).width;
    pen.fillStyle = token("ink-2");
    pen.font = `400 11.5px ${token("mono")}`;
    const told = mark.name ? `${mark.numeral} ${mark.name}` : mark.numeral;
    if (p.band.open) pen.fillText(told, left + 13 + wide, base);
    pen.restore();
    pen.globalAlpha = Math.max(weightOf(p, mark.at), 0.5);
    pen.fillStyle = p.hue;
    pen.fillRect(left, height - 3, Math.max(right - left - 2, 2), 2);
    pen.fillRect(left, 5, 2, height - 6);
    if (p.band.open) pen.fillRect(right - 4, height - 9, 2, 8);
  });
  pen.globalAlpha = 1;
}
