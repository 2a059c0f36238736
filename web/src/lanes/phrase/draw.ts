import { beyond, notesBetween, slotsBetween, yOf } from "../../canvas/drawing/geometry";
import { lastAt } from "../../sorted";
import { drawBeyond, drawGrid, drawNames, drawRows, drawSlots, weightOf } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { drawLane } from "../../canvas/rails/draw";
import { token } from "../../theme";
import { drawPods } from "../steps/pods";
import { STRIP } from "./band";
import type { PhraseLane } from "./phrase";
import { signs } from "./signs";

type PhrasePicture = Picture<PhraseLane>;

/** Draws a phrase: the rungs that are walked, the notes with the line that links them, and
 * over them what each step plays. */
export function draw(pen: Pen, p: PhrasePicture): void {
  drawLane(
    pen,
    p,
    (axis) => {
      drawRows(pen, p, axis);
      drawRungs(pen, p, axis);
      drawGrid(pen, p, axis);
      drawSlots(pen, p, axis);
      if (p.view.clocked) drawMoments(pen, p, axis);
      drawLink(pen, p, axis);
      drawPods(pen, p, axis);
      if (p.band.open) {
        drawBeyond(pen, p, axis);
        drawPlays(pen, p, axis);
      }
    },
    () => drawNames(pen, p),
  );
}

/** The rungs of the walk, as the harmony moves. */
function drawRungs(pen: Pen, p: PhrasePicture, { x, from, to }: Axis): void {
  const { walk } = p.view;
  const { band } = p;
  pen.fillStyle = token("tint");
  for (
    let i = Math.max(
      lastAt(walk, (w) => w.at, from),
      0,
    );
    i < walk.length && walk[i]!.at <= to;
    i++
  ) {
    const { at, rungs } = walk[i]!;
    const [left, right] = [x(at), x(Math.min(walk[i + 1]?.at ?? p.ticks, p.ticks))];
    const own = new Set(rungs);
    band.rows.forEach((row, r) => {
      if (own.has(row.pitch))
        pen.fillRect(left, band.ladderBottom - (r + 1) * band.rowHeight, right - left - 1, band.rowHeight);
    });
  }
}

/** Faint stems where the lane begins to sound whose rhythm is taken. */
function drawMoments(pen: Pen, p: PhrasePicture, { x, from, to }: Axis): void {
  const [first, last] = slotsBetween(p.view, from, to);
  pen.fillStyle = token("rule-strong");
  pen.globalAlpha = 0.6;
  for (let k = first; k <= last; k++)
    pen.fillRect(x(p.view.slotAt[k]!), p.band.ladderTop, 1.5, p.band.ladderBottom - p.band.ladderTop);
  pen.globalAlpha = 1;
}

/** A fine line through the notes in the order of the walk: the highest, where several
 * sound together. */
function drawLink(pen: Pen, p: PhrasePicture, { x, from, to }: Axis): void {
  pen.strokeStyle = token("ink-2");
  pen.lineWidth = 0.9;
  const way: { at: number; pitch: number }[] = [];
  notesBetween(p.view, from - p.view.stepTicks * 8, to + p.view.stepTicks * 8, (note) => {
    if (way.at(-1)?.at === note.at) way.pop();
    way.push(note);
  });
  way.forEach((note, i) => {
    const before = way[i - 1];
    if (!before || beyond(p.band, before.pitch) || beyond(p.band, note.pitch)) return;
    pen.globalAlpha = weightOf(p, note.at) * 0.75;
    pen.beginPath();
    pen.moveTo(x(before.at), yOf(p.band, before.pitch));
    pen.lineTo(x(note.at), yOf(p.band, note.pitch));
    pen.stroke();
  });
  pen.globalAlpha = 1;
}

/** The strip of plays: a sign for each step, and the name of the note that it gives with
 * what it is moved by. */
function drawPlays(pen: Pen, p: PhrasePicture, { x, from, to }: Axis): void {
  const { view } = p;
  const [first, last] = slotsBetween(view, from, to);
  const width = view.stepTicks * p.zoom;
  const names = new Map(view.ladder.map((r) => [r.pitch, r.name]));
  const sounding = new Map<number, number>();
  notesBetween(view, from, to, (note) => {
    const slot = lastAt(view.slotAt, (at) => at, note.at + view.stepTicks / 2);
    if (view.slots[slot] === note.step) sounding.set(slot, note.pitch);
  });
  pen.fillStyle = token("paper");
  pen.globalAlpha = 0.82;
  pen.fillRect(x(from), 3, x(to) - x(from), STRIP - 4);
  pen.textAlign = "center";
  pen.textBaseline = "alphabetic";
  for (let k = first; k <= last; k++) {
    const step = p.lane.steps[view.slots[k]!];
    if (!step?.on || width < 9) continue;
    const middle = x(view.slotAt[k]!) + width / 2;
    pen.globalAlpha = (view.repeats[k] ? 0.5 : 1) * (view.sounds[k] ? 1 : 0.4);
    pen.strokeStyle = pen.fillStyle = token("ink");
    pen.lineWidth = 1.3;
    signs[step.play]?.(pen, middle, 10);
    const pitch = sounding.get(k);
    if (width < 24 || pitch === undefined) continue;
    const moved = step.offset ? ` ${step.offset > 0 ? "+" : "−"}${Math.abs(step.offset)}` : "";
    pen.font = `400 10px ${token("mono")}`;
    pen.fillText(`${names.get(pitch) ?? ""}${width > 44 ? moved : ""}`, middle, STRIP - 4);
  }
  pen.globalAlpha = 1;
}
