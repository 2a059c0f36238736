import { lazy, Suspense } from "react";
import type { LaneProps } from "../kind";
import type { ChordsLane } from "./chords";

const Board = lazy(() => import("./Board").then((m) => ({ default: m.Board })));

/** The chord board, loaded when a chords lane is first worked on. It keeps its room. */
export function LazyBoard(props: LaneProps<ChordsLane>) {
  return (
    <Suspense fallback={<div style={{ minHeight: 180 }} />}>
      <Board {...props} />
    </Suspense>
  );
}
