import type { Step } from "../api/gen/piece.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { token } from "../theme";
import { bendAt, yOf, type Band } from "./geometry";
import { rails, RAIL_GAP, RAIL_HEIGHT } from "./rails";
import { GUTTER } from "./sheetState";

/** What a band's picture depends on. */
export interface Picture {
  view: LaneView;
  steps: Step[];
  band: Band;
  hue: string;
  zoom: number;
  scroll: number;
  width: number;
  ticks: number;
  barTicks: number;
  beatTicks: number;
  selection: ReadonlySet<number>;
  cursor: number;
  ghosts: { step: number; pitch: number }[];
  hover: number;
  /** Rail values while they are being drawn: rail and step to value. */
  draft: { rail: number; values: Map<number, number> } | null;
  /** A freehand contour or a selection frame being drawn, in pixels. */
  stroke: { kind: "contour" | "frame"; points: [number, number][] } | null;
  /** A note's new end while its edge is dragged, in ticks. */
  edge: { note: number; end: number } | null;
  muted: boolean;
}

type Pen = CanvasRenderingContext2D;

/** Draws one lane's band. */
export function draw(pen: Pen, p: Picture): void {
  const ratio = window.devicePixelRatio || 1;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, p.width + GUTTER, p.band.height);
  pen.save();
  pen.beginPath();
  pen.rect(GUTTER, 0, p.width, p.band.height);
  pen.clip();
  const x = (tick: number) => GUTTER + tick * p.zoom - p.scroll;
  const from = p.scroll / p.zoom;
  const to = Math.min(p.ticks, (p.scroll + p.width) / p.zoom);
  drawRows(pen, p, x(0), x(p.ticks));
  drawGrid(pen, p, x, from, to);
  drawSlots(pen, p, x, from, to);
  drawNotes(pen, p, x, from, to);
  drawGhosts(pen, p, x, from, to);
  if (p.band.open) drawRails(pen, p, x, from, to);
  if (p.stroke) drawStroke(pen, p.stroke);
  pen.restore();
  drawNames(pen, p);
}

function drawRows(pen: Pen, p: Picture, left: number, right: number): void {
  const { band } = p;
  band.rows.forEach((row, i) => {
    const y = band.ladderBottom - (i + 1) * band.rowHeight;
    if (row.tonic) {
      pen.fillStyle = token("paper-2");
      pen.fillRect(left, y, right - left, band.rowHeight);
    } else if (!row.inKey) {
      pen.fillStyle = token("paper-3");
      pen.globalAlpha = 0.55;
      pen.fillRect(left, y, right - left, band.rowHeight);
      pen.globalAlpha = 1;
    }
    if (band.open) {
      pen.fillStyle = token("rule");
      pen.globalAlpha = 0.55;
      pen.fillRect(left, y + band.rowHeight - 0.5, right - left, 0.5);
      pen.globalAlpha = 1;
    }
  });
}

function drawGrid(pen: Pen, p: Picture, x: (t: number) => number, from: number, to: number): void {
  const bottom = p.band.height;
  for (let t = Math.floor(from / p.beatTicks) * p.beatTicks; t <= to; t += p.beatTicks) {
    const bar = t % p.barTicks === 0;
    if (!bar && p.beatTicks * p.zoom < 10) continue;
    pen.fillStyle = bar ? token("rule-strong") : token("rule");
    pen.globalAlpha = bar ? 0.65 : 0.8;
    pen.fillRect(x(t) - 0.5, 0, bar ? 1 : 0.7, bottom);
  }
  pen.globalAlpha = 1;
}

/** Columns of the steps: the selection, skipped ones, step lines and seams. */
function drawSlots(pen: Pen, p: Picture, x: (t: number) => number, from: number, to: number): void {
  const { view, band } = p;
  const width = view.stepTicks * p.zoom;
  const first = Math.max(0, Math.floor(from / view.stepTicks));
  const last = Math.min(view.slots.length - 1, Math.floor(to / view.stepTicks));
  for (let k = first; k <= last; k++) {
    const left = x(k * view.stepTicks);
    const step = view.slots[k];
    if (p.selection.has(step) && band.open) {
      pen.fillStyle = token("now-soft");
      pen.globalAlpha = k < view.round ? 0.9 : 0.4;
      pen.fillRect(left, 0, width, band.height);
      pen.globalAlpha = 1;
    }
    if (band.open && p.cursor === step && k < view.round) {
      pen.fillStyle = token("now");
      pen.fillRect(left, 0, width, 3);
    }
    if (width >= 6) {
      pen.fillStyle = token("rule");
      pen.globalAlpha = 0.55;
      pen.fillRect(left, 0, 0.5, band.height);
      pen.globalAlpha = 1;
    }
    if (k > 0 && k % view.round === 0) drawSeam(pen, left, band.height);
  }
}

/** A seam: where the lane's round starts again, drawn as a stitched line. */
function drawSeam(pen: Pen, left: number, height: number): void {
  pen.strokeStyle = token("ink-2");
  pen.lineWidth = 1.2;
  pen.setLineDash([2, 3]);
  pen.beginPath();
  pen.moveTo(left, 0);
  pen.lineTo(left, height);
  pen.stroke();
  pen.setLineDash([]);
  pen.fillStyle = token("ink-2");
  pen.beginPath();
  pen.moveTo(left - 3.5, 0);
  pen.lineTo(left + 3.5, 0);
  pen.lineTo(left, 5);
  pen.fill();
}

function drawNotes(pen: Pen, p: Picture, x: (t: number) => number, from: number, to: number): void {
  const { view, band } = p;
  const roundTicks = view.round * view.stepTicks;
  view.notes.forEach(([at, length, pitch, velocity, step], i) => {
    const end = p.edge?.note === i ? p.edge.end : at + length;
    if (end < from || at > to) return;
    const selected = band.open && p.selection.has(step);
    pen.globalAlpha = (at < roundTicks ? 1 : 0.48) * (p.muted ? 0.4 : 1);
    const weight = band.open ? 2 + (velocity / 127) * 6.5 : Math.max(2, Math.min(band.rowHeight, 4.5));
    const chance = p.steps[step]?.chance ?? 100;
    pod(pen, p, { at, end, pitch, weight, selected, dashed: chance < 100, hover: p.hover === i }, x);
  });
  pen.globalAlpha = 1;
  drawPortamento(pen, p, x, from, to);
}

interface Pod {
  at: number;
  end: number;
  pitch: number;
  weight: number;
  selected: boolean;
  dashed: boolean;
  hover: boolean;
}

/** A pod: a stem at the onset and a bar along the note, which follows the wheel. */
function pod(pen: Pen, p: Picture, n: Pod, x: (t: number) => number): void {
  const { band, view } = p;
  const bent = view.bends.length > 0;
  const y0 = yOf(band, n.pitch + (bent ? bendAt(view, n.at) : 0));
  const stem = band.open ? band.rowHeight - 1 : Math.max(band.rowHeight, 7);
  pen.strokeStyle = p.hue;
  pen.fillStyle = p.hue;
  if (n.selected || n.hover) {
    pen.save();
    pen.globalAlpha = 1;
    pen.lineCap = "round";
    pen.strokeStyle = n.selected ? token("now") : token("paper-3");
    pen.lineWidth = n.weight + 5;
    trace(pen, p, n, x, bent);
    pen.stroke();
    pen.restore();
  }
  pen.lineWidth = n.weight;
  pen.lineCap = "butt";
  pen.lineJoin = "round";
  if (n.dashed) {
    const alpha = pen.globalAlpha;
    pen.globalAlpha = alpha * 0.25;
    trace(pen, p, n, x, bent);
    pen.stroke();
    pen.globalAlpha = alpha;
    pen.setLineDash([4, 3]);
    pen.lineWidth = 1.4;
    for (const side of [-1, 1]) {
      pen.save();
      pen.translate(0, (side * n.weight) / 2);
      trace(pen, p, n, x, bent);
      pen.stroke();
      pen.restore();
    }
    pen.setLineDash([]);
  } else {
    trace(pen, p, n, x, bent);
    pen.stroke();
  }
  pen.fillRect(x(n.at) - 0.5, y0 - stem / 2, band.open ? 3 : 2, stem);
}

function trace(pen: Pen, p: Picture, n: Pod, x: (t: number) => number, bent: boolean): void {
  const { band, view } = p;
  pen.beginPath();
  if (!bent) {
    const y = yOf(band, n.pitch);
    pen.moveTo(x(n.at), y);
    pen.lineTo(Math.max(x(n.end) - 1, x(n.at) + 1), y);
    return;
  }
  const end = Math.max(x(n.end) - 1, x(n.at) + 1);
  pen.moveTo(x(n.at), yOf(band, n.pitch + bendAt(view, n.at)));
  for (let px = x(n.at) + 2; px < end; px += 2) {
    const tick = n.at + (px - x(n.at)) / p.zoom;
    pen.lineTo(px, yOf(band, n.pitch + bendAt(view, tick)));
  }
  pen.lineTo(end, yOf(band, n.pitch + bendAt(view, n.at + (end - x(n.at)) / p.zoom)));
}

/** Glides between overlapping notes: a curve from the note they come from. */
function drawPortamento(pen: Pen, p: Picture, x: (t: number) => number, from: number, to: number): void {
  const { view, band } = p;
  let came = -1;
  let since = 0;
  pen.strokeStyle = p.hue;
  pen.lineWidth = 2;
  for (const [at, controller, value] of view.controls) {
    if (controller === 84) {
      came = value;
      since = at;
    } else if (controller === 65 && value === 0 && came >= 0) {
      const note = view.notes.find((n) => n[0] === since);
      if (note && at >= from && since <= to) {
        const [x0, x1] = [x(since), x(at)];
        pen.beginPath();
        pen.moveTo(x0 - 3, yOf(band, came));
        pen.bezierCurveTo((x0 + x1) / 2, yOf(band, came), (x0 + x1) / 2, yOf(band, note[2]), x1, yOf(band, note[2]));
        pen.stroke();
      }
      came = -1;
    }
  }
}

/** Steps that are on but silent in a round, skipped columns, and notes that the
 * server has not answered for yet. */
function drawGhosts(pen: Pen, p: Picture, x: (t: number) => number, from: number, to: number): void {
  const { view, band } = p;
  const first = Math.max(0, Math.floor(from / view.stepTicks));
  const last = Math.min(view.slots.length - 1, Math.floor(to / view.stepTicks));
  const pending = new Map(p.ghosts.map((g) => [g.step, g.pitch]));
  const width = view.stepTicks * p.zoom;
  for (let k = first; k <= last; k++) {
    const step = view.slots[k];
    const left = x(k * view.stepTicks);
    const put = pending.get(step);
    if (put !== undefined) {
      pen.fillStyle = p.hue;
      pen.globalAlpha = k < view.round ? 0.8 : 0.35;
      const y = yOf(band, put);
      pen.fillRect(left, y - band.rowHeight / 2 + 1, 3, band.rowHeight - 2);
      pen.fillRect(left, y - 3, width * 0.75, 6);
      pen.globalAlpha = 1;
    } else if (p.steps[step]?.on && !view.sounds[k] && band.open) {
      pen.strokeStyle = p.hue;
      pen.globalAlpha = 0.55;
      pen.setLineDash([1.5, 3]);
      pen.lineWidth = 1;
      pen.strokeRect(left + 1.5, yOf(band, view.pitches[step]) - 3, Math.max(width * 0.75 - 2, 2), 6);
      pen.setLineDash([]);
      pen.globalAlpha = 1;
    }
  }
}

const railTop = (band: Band, r: number) => band.ladderBottom + 8 + r * (RAIL_HEIGHT + RAIL_GAP);

function drawRails(pen: Pen, p: Picture, x: (t: number) => number, from: number, to: number): void {
  const { view, band } = p;
  const first = Math.max(0, Math.floor(from / view.stepTicks));
  const last = Math.min(view.slots.length - 1, Math.floor(to / view.stepTicks));
  const width = Math.max(view.stepTicks * p.zoom - 2, 1);
  rails.forEach((rail, r) => {
    const top = railTop(band, r);
    pen.fillStyle = token("paper-2");
    pen.fillRect(x(0), top, x(p.ticks) - x(0), RAIL_HEIGHT);
    for (let k = first; k <= last; k++) {
      const stepIndex = view.slots[k];
      const step = p.steps[stepIndex];
      const drafted = p.draft?.rail === r ? p.draft.values.get(stepIndex) : undefined;
      if (!step || (!step.on && drafted === undefined)) continue;
      const value = drafted ?? rail.value(step);
      const height = ((Math.min(value, rail.high) - rail.low) / (rail.high - rail.low)) * (RAIL_HEIGHT - 2);
      const left = x(k * view.stepTicks) + 1;
      pen.globalAlpha = k < view.round ? 0.9 : 0.3;
      pen.fillStyle = p.hue;
      pen.fillRect(left, top + RAIL_HEIGHT - 1 - height, Math.min(width, 9), Math.max(height, 1));
      if (value > rail.high) pen.fillRect(left + 11, top + 2, 3, 3);
      pen.globalAlpha = 1;
    }
  });
}

function drawStroke(pen: Pen, stroke: NonNullable<Picture["stroke"]>): void {
  pen.strokeStyle = token("ink");
  pen.lineWidth = 1.5;
  if (stroke.kind === "frame") {
    const [[x0, y0], [x1, y1]] = [stroke.points[0], stroke.points[stroke.points.length - 1]];
    pen.setLineDash([3, 3]);
    pen.strokeRect(Math.min(x0, x1), Math.min(y0, y1), Math.abs(x1 - x0), Math.abs(y1 - y0));
    pen.setLineDash([]);
    return;
  }
  pen.beginPath();
  stroke.points.forEach(([x, y], i) => (i ? pen.lineTo(x, y) : pen.moveTo(x, y)));
  pen.stroke();
}

/** Note names and rail names, in the gutter. */
function drawNames(pen: Pen, p: Picture): void {
  const { band } = p;
  pen.fillStyle = token("paper");
  pen.fillRect(0, 0, GUTTER, band.height);
  pen.textBaseline = "middle";
  pen.textAlign = "right";
  if (!band.open) {
    pen.font = `500 10.5px ${token("mono")}`;
    pen.fillStyle = token("ink-2");
    const tonic = band.rows.findIndex((r) => r.tonic);
    if (tonic >= 0) pen.fillText(band.rows[tonic].name, GUTTER - 5, yOf(band, band.rows[tonic].pitch));
    return;
  }
  band.rows.forEach((row) => {
    pen.font = `${row.tonic ? "500" : "400"} 11px ${token("mono")}`;
    pen.fillStyle = row.tonic ? token("ink") : token("ink-2");
    const y = yOf(band, row.pitch);
    pen.fillText(row.name, GUTTER - 6, y);
    if (row.tonic) pen.fillRect(GUTTER - 3, y - 5, 2, 10);
  });
  pen.font = `400 10.5px ${token("sans")}`;
  pen.fillStyle = token("ink-2");
  rails.forEach((rail, r) => pen.fillText(rail.name, GUTTER - 4, railTop(band, r) + RAIL_HEIGHT / 2));
}

/** Hatches the columns of steps that take no part in the round. They have no
 * slot of their own, so a strip of all steps under the header shows them. */
export function drawStrip(pen: Pen, steps: Step[], active: boolean[], selection: ReadonlySet<number>, hue: string, width: number, height: number): void {
  const ratio = window.devicePixelRatio || 1;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, width, height);
  const cell = width / steps.length;
  steps.forEach((step, i) => {
    const left = i * cell;
    if (selection.has(i)) {
      pen.fillStyle = token("now-soft");
      pen.fillRect(left, 0, cell, height);
    }
    if (!active[i]) {
      pen.strokeStyle = token("rule-strong");
      pen.lineWidth = 0.7;
      pen.save();
      pen.beginPath();
      pen.rect(left, 0, cell, height);
      pen.clip();
      pen.beginPath();
      for (let d = -height; d < cell; d += 3) {
        pen.moveTo(left + d, height);
        pen.lineTo(left + d + height, 0);
      }
      pen.stroke();
      pen.restore();
    }
    if (step.on) {
      pen.fillStyle = hue;
      pen.globalAlpha = active[i] ? 1 : 0.5;
      pen.fillRect(left + 0.5, 2, Math.max(cell - 1.5, 1), height - 4);
      pen.globalAlpha = 1;
    }
    pen.fillStyle = token("rule-strong");
    pen.fillRect(left, height - 1.5, Math.max(cell - 1, 0.5), 1);
  });
}

/** Which rail lies under a height, and the value that a height means on it. */
export function railAt(band: Band, y: number): { rail: number; value: number } | null {
  if (!band.open) return null;
  for (let r = 0; r < rails.length; r++) {
    const top = railTop(band, r);
    if (y >= top && y <= top + RAIL_HEIGHT) return { rail: r, value: railValue(band, r, y) };
  }
  return null;
}

export function railValue(band: Band, r: number, y: number): number {
  const rail = rails[r];
  const share = 1 - (y - railTop(band, r) - 1) / (RAIL_HEIGHT - 2);
  return Math.round(rail.low + Math.min(Math.max(share, 0), 1) * (rail.high - rail.low));
}
