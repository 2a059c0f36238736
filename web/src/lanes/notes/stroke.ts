import type { StrokePoint } from "../../api/gen/op.gen";
import type { Op } from "../../api/gen/schema.gen";
import { nearestRung } from "../../canvas/drawing/geometry";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { useApp } from "../../state/store";
import type { FullNote } from "../../api/free";
import { onAxis } from "./axis";
import { useHands } from "./state";

/** A note as the document writes it, without its number. */
export const written = ({
  at,
  length,
  degree,
  octave,
  alter,
  note,
  velocity,
  chance,
  rounds,
  tie,
  glide,
  bend,
}: FullNote) => ({
  at,
  length,
  ...(note === null ? { degree, octave, alter } : { note }),
  velocity,
  chance,
  rounds,
  tie,
  glide,
  bend,
});

/** Alt: paints notes along a stroke, or stamps the motif along it. */
export function drawStrokeAlong(g: Ground, p: Point): Gesture | null {
  const free = g.view.free;
  const points: [number, number][] = [];
  const stroke: StrokePoint[] = [];
  const add = (q: Point) => {
    const { degree, octave, alter } = nearestRung(g.band, q.y);
    const tick = Math.max(g.tick(q.x), 0);
    const at = Math.max(Math.round(free ? onAxis(free, tick) : tick), 0);
    points.push([q.x, q.y]);
    if (stroke.at(-1)?.at !== at) stroke.push({ at, place: { degree, octave, alter } });
  };
  add(p);
  return {
    heard: true,
    move: (now) => {
      const [x, y] = points.at(-1)!;
      if (Math.abs(now.x - x) + Math.abs(now.y - y) > 1) add(now);
      return { stroke: { kind: "contour", points: [...points] } };
    },
    end: () => {
      const { motif, snap } = useHands.getState();
      const on = { clip: g.clip, lane: g.lane.id };
      const rate = snap ? { snap } : {};
      const op: Op = motif?.steps.length
        ? { op: "notes.stamp", ...on, steps: motif.steps, stroke: thinned(stroke) }
        : motif
          ? { op: "notes.stamp", ...on, ...rate, motif: motif.notes.map(written), stroke: thinned(stroke) }
          : { op: "notes.paint", ...on, ...rate, stroke: thinned(stroke) };
      void useApp.getState().edit([op]);
    },
  };
}

/** A stroke less the points that lie on the row of both their neighbours. */
function thinned(stroke: readonly StrokePoint[]): StrokePoint[] {
  const same = (a: StrokePoint | undefined, b: StrokePoint) =>
    a?.place.degree === b.place.degree && a.place.octave === b.place.octave && a.place.alter === b.place.alter;
  return stroke.filter(
    (s, i) => i === 0 || i === stroke.length - 1 || !same(stroke[i - 1], s) || !same(stroke[i + 1], s),
  );
}
