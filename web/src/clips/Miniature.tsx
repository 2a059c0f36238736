import { useLayoutEffect, useRef } from "react";
import type { Thumb } from "../api/gen/view.gen";
import { token } from "../theme";
import { useLight } from "../light";

/** The size of the picture that a miniature's marks are in. */
const [columns, rows] = [208, 23];

/** A clip's result, tiny. */
export function Miniature({ thumb }: { thumb: Thumb }) {
  useLight(); // what is drawn changes with it
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    const ratio = window.devicePixelRatio || 1;
    const [w, h] = [104, 26] as const;
    el.width = w * ratio;
    el.height = h * ratio;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, w, h);
    pen.fillStyle = token("ink");
    for (let i = 0; i < thumb.marks.length; i += 3) {
      const [column, wide, row] = thumb.marks.slice(i) as [number, number, number];
      pen.fillRect(
        (column / columns) * w,
        h - 3 - (row / rows) * (h - 6),
        Math.max((wide / columns) * w - 0.5, 1),
        1.8,
      );
    }
  });
  return <canvas ref={canvas} style={{ width: 104, maxWidth: "100%", height: 26, display: "block" }} aria-hidden />;
}
