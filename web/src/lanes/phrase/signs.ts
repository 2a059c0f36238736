import type { Pen } from "../../canvas/drawing/picture";

/** Small drawings of what a step plays, around a middle, some ten pixels wide. */
export const signs: Readonly<Record<string, (pen: Pen, x: number, y: number) => void>> = {
  next: (pen, x, y) => corner(pen, x, y, 1),
  back: (pen, x, y) => corner(pen, x, y, -1),
  again: (pen, x, y) => {
    pen.fillRect(x - 4, y - 2.5, 8, 1.4);
    pen.fillRect(x - 4, y + 1, 8, 1.4);
  },
  low: (pen, x, y) => level(pen, x, y, 4),
  high: (pen, x, y) => level(pen, x, y, -4),
  root: (pen, x, y) => {
    pen.beginPath();
    pen.moveTo(x, y + 4.5);
    pen.lineTo(x - 4, y - 3.5);
    pen.lineTo(x + 4, y - 3.5);
    pen.closePath();
    pen.stroke();
  },
  chord: (pen, x, y) => {
    for (const d of [-4, -0.7, 2.6]) pen.fillRect(x - 4, y + d, 8, 1.8);
  },
};

/** A step up to the right, or back down to the left. */
function corner(pen: Pen, x: number, y: number, way: number): void {
  pen.beginPath();
  pen.moveTo(x - 4 * way, y + 3);
  pen.lineTo(x, y + 3);
  pen.lineTo(x, y - 3);
  pen.lineTo(x + 4 * way, y - 3);
  pen.stroke();
}

/** A post with a bar at its foot or its head. */
function level(pen: Pen, x: number, y: number, d: number): void {
  pen.fillRect(x - 0.6, y - 4, 1.2, 8);
  pen.fillRect(x - 4, y + d - 0.8, 8, 1.8);
}
