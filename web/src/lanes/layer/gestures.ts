import { noteAt } from "../../canvas/drawing/geometry";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { useSheet } from "../../state/sheet";
import { useApp } from "../../state/store";
import type { LayerLane } from "./layer";

/** Goes to the lane that a layer plays, and to the step of a note. */
export function goToOriginal(lane: LayerLane, step?: number): void {
  const app = useApp.getState();
  app.goTo(lane.of);
  useSheet.getState().show(lane.of);
  if (step !== undefined) app.select([step], step);
}

/** A click sounds a note, and selects its step in the original. */
export function begin(g: Ground<LayerLane>, p: Point): Gesture | null {
  const note = g.view.notes[noteAt(g.view, g.band, g.tick(p.x), p.y, g.slack)];
  if (!note) return null;
  g.sound([note.pitch]);
  return { move: () => ({}), end: () => goToOriginal(g.lane, note.step) };
}

/** The mouse pointer over a place. */
export const pointer = (_: Ground<LayerLane>, __: Point, note: number): string => (note >= 0 ? "pointer" : "default");
