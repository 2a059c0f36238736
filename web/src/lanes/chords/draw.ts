import { beyond, yOf } from "../../canvas/drawing/geometry";
import { drawBeyond, drawGrid, drawNames, drawRows, drawSlots, weightOf } from "../../canvas/drawing/ground";
import type { Axis, Pen, Picture } from "../../canvas/drawing/picture";
import { drawLane } from "../../canvas/rails/draw";
import { token } from "../../theme";
import { drawGhosts, drawPod, drawPods } from "../steps/pods";
import { drawStrip, marksBetween } from "../steps/strip";
import type { ChordsLane } from "./chords";

type ChordsPicture = Picture<ChordsLane>;

/** Draws a chords lane: the names over its ladder, its tones as pods, and threads from
 * each to where it goes. */
export function draw(pen: Pen, p: ChordsPicture): void {
  drawLane(
    pen,
    p,
    (axis) => {
      drawRows(pen, p, axis);
      drawGrid(pen, p, axis);
      drawSlots(pen, p, axis);
      if (!p.view.apart) drawThreads(pen, p, axis); // else they are heard, and the pods go their ways
      if (p.view.audible) drawPods(pen, p, axis);
      else drawSilent(pen, p, axis);
      if (p.band.open) drawAgainst(pen, p, axis);
      drawGhosts(pen, p, axis);
      if (p.band.open) drawBeyond(pen, p, axis);
      drawStrip(pen, p, axis);
    },
    () => drawNames(pen, p),
  );
}

/** The widest that a thread leads over, in pixels. */
const THREAD = 34;

/** Threads: from each tone to where it goes in the next chord. A tone that stays needs
 * none. */
function drawThreads(pen: Pen, p: ChordsPicture, { x, from, to }: Axis): void {
  const marks = p.view.chart?.marks ?? [];
  pen.strokeStyle = token("ink-2");
  pen.lineWidth = p.band.open ? 1.1 : 0.8;
  marksBetween(p, from, to, (mark, i) => {
    const next = marks[i + 1];
    if (!next) return;
    const right = x(next.at);
    const left = right - Math.min(THREAD, (right - x(mark.at)) * 0.45);
    pen.globalAlpha = weightOf(p, mark.at) * 0.9;
    for (const [a, b] of mark.threads) {
      if (a === b || beyond(p.band, a) || beyond(p.band, b)) continue;
      const [y0, y1] = [yOf(p.band, a), yOf(p.band, b)];
      pen.beginPath();
      pen.moveTo(left, y0);
      pen.bezierCurveTo((left + right) / 2, y0, (left + right) / 2, y1, right, y1);
      pen.stroke();
    }
  });
  pen.globalAlpha = 1;
}

/** The tones of a lane that is not heard but still leads the others. */
function drawSilent(pen: Pen, p: ChordsPicture, axis: Axis): void {
  marksBetween(p, axis.from, axis.to, (mark) => {
    pen.globalAlpha = weightOf(p, mark.at);
    for (const pitch of mark.pitches) {
      if (beyond(p.band, pitch)) continue;
      drawPod(pen, p, axis, {
        at: mark.at,
        end: mark.until,
        pitch,
        weight: 3,
        selected: p.selection.has(mark.step),
        dashed: false,
        hover: false,
      });
    }
  });
  pen.globalAlpha = 1;
}

/** What each tone is above its chord's root, over the pod's beginning, or where it has come home. */
function drawAgainst(pen: Pen, p: ChordsPicture, { x, from, to }: Axis): void {
  pen.font = `500 9.5px ${token("mono")}`;
  pen.textBaseline = "alphabetic";
  pen.textAlign = "right";
  pen.fillStyle = token("ink-2");
  marksBetween(p, from, to, (mark) => {
    const left = x(mark.at);
    const right = x(mark.until);
    if (right - left < 54) return;
    const at = p.view.apart ? right - 10 : left + 44;
    pen.globalAlpha = Math.max(weightOf(p, mark.at), 0.62);
    mark.pitches.forEach((pitch, i) => {
      if (!beyond(p.band, pitch)) pen.fillText(mark.against[i] ?? "", at, yOf(p.band, pitch) - 5.5);
    });
  });
  pen.globalAlpha = 1;
}
