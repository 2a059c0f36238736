import type { Preview } from "../../canvas/drawing/picture";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { useApp } from "../../state/store";
import { freeNotes } from "../../api/free";
import { inClip } from "./axis";
import type { NotesLane } from "./notes";
import { nearest, useHands } from "./state";

/** Shift, at an outer end of several notes that are selected: their time is drawn longer or shorter by it.
 * Null elsewhere. */
export function stretchBy(g: Ground<NotesLane>, p: Point, index: number, side: "start" | "end"): Gesture | null {
  const free = g.view.free;
  const sound = g.view.notes[index];
  const notes = freeNotes(g.lane);
  const own = sound && notes?.[sound.step];
  const { selection, lane } = useApp.getState();
  if (!free || !own || lane !== g.lane.id || selection.length < 2 || !selection.includes(sound.step)) return null;
  const places = selection.filter((n) => notes[n]);
  const chosen = places.map((n) => notes[n]!);
  const start = Math.min(...chosen.map((n) => n.at));
  const end = Math.max(...chosen.map((n) => n.at + n.length));
  if (side === "end" ? own.at + own.length !== end : own.at !== start) return null;
  const hidden = new Set(places);
  let [from, to] = [start, end];
  return {
    heard: true,
    move: (now) => {
      const by = Math.abs(now.x - p.x) < 3 ? 0 : g.tick(now.x) - g.tick(p.x);
      if (side === "end") to = by ? Math.max(nearest(end + by), start + 1) : end;
      else from = by ? Math.min(Math.max(nearest(start + by), 0), end - 1) : start;
      if (from === start && to === end) return {};
      const scale = (to - from) / (end - start);
      const shown = places.map((n): Preview => {
        const { at, length } = notes[n]!;
        return {
          at: inClip(free, from + (at - start) * scale, sound.at),
          length: length * scale,
          pitch: free.rows[n] ?? 60,
        };
      });
      return { pods: { shown, hidden } };
    },
    end: () => {
      if (from === start && to === end) return;
      const { feel, snap } = useHands.getState();
      const on = { clip: g.clip, lane: g.lane.id, notes: chosen.map((n) => n.number) };
      void useApp
        .getState()
        .edit([{ op: "notes.stretch", ...on, start: from, end: to, ...(feel && snap ? { feel, snap } : {}) }]);
    },
  };
}
