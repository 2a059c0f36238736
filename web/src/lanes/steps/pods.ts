import type { Cell } from "../../api/gen/piece.gen";
import { bendAt, bends, beyond, notesBetween, slotsBetween, yOf } from "../../canvas/drawing/geometry";
import { weightOf } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { stepsOf } from "../../state/store";
import { token } from "../../theme";

/** A note as it is drawn. */
interface Pod {
  at: number;
  end: number;
  pitch: number;
  slides?: readonly number[];
  weight: number;
  selected: boolean;
  dashed: boolean;
  hover: boolean;
}

/** The notes that sound, as pods. */
export function drawPods(pen: Pen, p: Picture, axis: Axis): void {
  const { band } = p;
  const steps: readonly Cell[] = stepsOf(p.lane);
  notesBetween(p.view, axis.from, axis.to, (note, i) => {
    if (beyond(band, note.pitch)) return;
    const end = p.edge?.note === i ? p.edge.end : note.at + note.length;
    pen.globalAlpha = weightOf(p, note.at);
    drawPod(pen, p, axis, {
      at: note.at,
      end,
      pitch: note.pitch,
      ...(note.slides ? { slides: note.slides } : {}),
      weight: band.open ? 2 + (note.velocity / 127) * 6.5 : Math.max(2, Math.min(band.rowHeight, 4.5)),
      selected: band.open && p.selection.has(note.step),
      dashed: (steps[note.step]?.chance ?? 100) < 100,
      hover: p.hover === i,
    });
  });
  pen.globalAlpha = 1;
}

/** A pod: a stem at the onset and a bar along the note, which follows the wheel. */
export function drawPod(pen: Pen, p: Picture, { x }: Axis, n: Pod): void {
  const { band, view } = p;
  const bent = bends(view);
  const y0 = yOf(band, n.pitch + (bent ? bendAt(view, n, n.at) : 0));
  const stem = band.open ? band.rowHeight - 1 : Math.max(band.rowHeight, 7);
  const way = wayOf(p, n, x);
  const stroke = () => strokeAlong(pen, way);
  if (n.selected || n.hover) {
    pen.save();
    pen.globalAlpha = 1;
    pen.lineCap = "round";
    pen.strokeStyle = n.selected ? token("now") : token("paper-3");
    pen.lineWidth = n.weight + 5;
    stroke();
    pen.restore();
  }
  pen.strokeStyle = pen.fillStyle = p.hue;
  pen.lineWidth = n.weight;
  pen.lineCap = "butt";
  pen.lineJoin = "round";
  if (n.dashed) {
    const alpha = pen.globalAlpha;
    pen.globalAlpha = alpha * 0.25;
    stroke();
    pen.globalAlpha = alpha;
    pen.setLineDash([4, 3]);
    pen.lineWidth = 1.4;
    for (const side of [-1, 1]) {
      pen.save();
      pen.translate(0, (side * n.weight) / 2);
      stroke();
      pen.restore();
    }
    pen.setLineDash([]);
  } else stroke();
  pen.fillRect(x(n.at) - 0.5, y0 - stem / 2, band.open ? 3 : 2, stem);
}

/** The way of a note along the time axis, as the wheel takes it. */
export function wayOf(p: Picture, n: Pick<Pod, "at" | "end" | "pitch" | "slides">, x: Axis["x"]): [number, number][] {
  const { band, view } = p;
  const [left, right] = [x(n.at), Math.max(x(n.end) - 1, x(n.at) + 1)];
  if (!bends(view)) {
    const y = yOf(band, n.pitch);
    return [
      [left, y],
      [right, y],
    ];
  }
  const height = (px: number) => yOf(band, n.pitch + bendAt(view, n, n.at + (px - left) / p.zoom));
  const way: [number, number][] = [[left, height(left)]];
  for (let px = left + 2; px < right; px += 2) way.push([px, height(px)]);
  way.push([right, height(right)]);
  return way;
}

/** Draws along a way. */
export function strokeAlong(pen: Pen, way: readonly [number, number][]): void {
  pen.beginPath();
  way.forEach(([x, y], i) => (i ? pen.lineTo(x, y) : pen.moveTo(x, y)));
  pen.stroke();
}

/** Notes that the server has not answered for yet, and steps that are on but
 * silent in a round. */
export function drawGhosts(pen: Pen, p: Picture, { x, from, to }: Axis): void {
  const { view, band } = p;
  const [first, last] = slotsBetween(view, from, to);
  const steps: readonly Cell[] = stepsOf(p.lane);
  const width = view.stepTicks * p.zoom;
  for (let k = first; k <= last; k++) {
    const step = view.slots[k]!;
    const left = x(view.slotAt[k]!);
    const put = p.ghosts.filter((g) => g.step === step);
    for (const { pitch } of put) {
      pen.fillStyle = p.hue;
      pen.globalAlpha = view.rounds[k] === 0 ? 0.8 : 0.35;
      const y = yOf(band, pitch);
      pen.fillRect(left, y - band.rowHeight / 2 + 1, 3, band.rowHeight - 2);
      pen.fillRect(left, y - 3, width * 0.75, 6);
    }
    if (!put.length && steps[step]?.on && !view.sounds[k] && band.open) {
      pen.strokeStyle = p.hue;
      pen.globalAlpha = 0.55;
      pen.setLineDash([1.5, 3]);
      pen.lineWidth = 1;
      for (const pitch of view.pitches[step] ?? [])
        pen.strokeRect(left + 1.5, yOf(band, pitch) - 3, Math.max(width * 0.75 - 2, 2), 6);
      pen.setLineDash([]);
    }
  }
  pen.globalAlpha = 1;
}
