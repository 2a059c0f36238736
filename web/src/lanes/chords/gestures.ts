import type { Rung } from "../../api/gen/pitch.gen";
import type { Op } from "../../api/gen/schema.gen";
import type { ChordMark } from "../../api/gen/render.gen";
import { nearestRung, noteAt, rungAt, slotAt } from "../../canvas/drawing/geometry";
import { moveAside, upOrAside } from "../../canvas/gestures/aside";
import { dragEnd, onRail, frameSteps, nearEnd } from "../../canvas/gestures/shared";
import type { Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { useApp } from "../../state/store";
import { markAt } from "./band";
import type { ChordsLane } from "./chords";
import { useChords } from "./state";

type ChordsGround = Ground<ChordsLane>;

const place = (r: Rung) => ({ degree: r.degree, octave: r.octave, alter: r.alter });
const edit = (ops: Op[]) => void useApp.getState().edit(ops);

/** Begins the gesture that fits where the pointer went down: on the names, on a tone or
 * on a free rung. */
export function begin(g: ChordsGround, p: Point): Gesture | null {
  const drawn = onRail(g, p);
  if (drawn !== undefined) return drawn;
  const tick = g.tick(p.x);
  if (p.shift) return frameSteps(g, p);
  if (p.y < g.band.ladderTop) {
    const mark = markAt(g.view, tick);
    if (!mark) return frameSteps(g, p);
    return atEdge(g, mark, tick) ? dragEdge(g, mark) : dragName(g, p, mark);
  }
  if (!rungAt(g.band, p.y)) return null;
  const note = noteAt(g.view, g.band, tick, p.y, g.slack);
  if (note < 0) return addTones(g, p);
  return nearEnd(g, note, tick) ? dragEnd(g, note) : dragTone(g, p, note);
}

/** Whether a place is at the end of a chord's name, near enough to take hold of it. */
const atEdge = (g: ChordsGround, mark: ChordMark, tick: number): boolean =>
  Math.abs(mark.until - tick) <= Math.min(g.slack * 2.5, (mark.until - mark.at) * 0.3);

/** The mouse pointer over a place. */
export function pointer(g: ChordsGround, p: Point, note: number): string {
  if (!g.band.open) return "default";
  const tick = g.tick(p.x);
  if (p.y < g.band.ladderTop) {
    const mark = markAt(g.view, tick);
    if (!mark) return "default";
    return atEdge(g, mark, tick) ? "ew-resize" : "grab";
  }
  if (note < 0) return "crosshair";
  return nearEnd(g, note, tick) ? "ew-resize" : "pointer";
}

/** The step whose chord sounds at a tick, or that a new one would begin at. */
function stepAt(g: ChordsGround, tick: number): number {
  return markAt(g.view, tick)?.step ?? g.view.slots[slotAt(g.view, tick)]!;
}

/** Adds tones where the pointer goes up and down. */
function addTones(g: ChordsGround, p: Point): Gesture {
  const step = stepAt(g, g.tick(p.x));
  const rungs = new Map<number, Rung>();
  const add = (y: number) => {
    const rung = nearestRung(g.band, y);
    if (rungs.has(rung.pitch) || g.view.pitches[step]?.includes(rung.pitch)) return;
    rungs.set(rung.pitch, rung);
    g.sound([...(g.lane.steps[step]?.on ? g.view.pitches[step]! : []), ...rungs.keys()]);
  };
  add(p.y);
  return {
    move: (now) => {
      add(now.y);
      return { ghosts: [...rungs.keys()].map((pitch) => ({ step, pitch })) };
    },
    end: () => {
      const ghosts = [...rungs.keys()].map((pitch) => ({ lane: g.lane.id, step, pitch }));
      useApp.getState().select([step], step);
      const { only } = useChords.getState();
      void useApp.getState().edit(
        [...rungs.values()].map((rung): Op => ({
          op: "chords.tone",
          clip: g.clip,
          lane: g.lane.id,
          step: step + 1,
          at: place(rung),
          only,
        })),
        ghosts,
      );
    },
  };
}

/** Takes a tone away, or moves it up and down, or its chord aside, or those that are selected with it. */
function dragTone(g: ChordsGround, p: Point, note: number): Gesture {
  const { pitch } = g.view.notes[note]!;
  const step = stepAt(g, g.tick(p.x));
  const from = nearestRung(g.band, p.y);
  const { only } = useChords.getState();
  const on = { clip: g.clip, lane: g.lane.id, step: step + 1, only };
  let to = from;
  const app = useApp.getState();
  if (!app.selection.includes(step)) app.select([step], step);
  const takeAway = () => edit([{ op: "chords.tone", ...on, at: place(rungOf(g, pitch) ?? from) }]);
  const up: Gesture = {
    lifts: true,
    get heard() {
      return to.pitch !== from.pitch; // where it stood before, letting go takes it away
    },
    move: (now) => {
      app.select([step], step);
      const next = nearestRung(g.band, now.y);
      if (next.pitch !== to.pitch) g.sound([next.pitch]);
      to = next;
      return to.pitch === from.pitch ? {} : { ghosts: [{ step, pitch: to.pitch }] };
    },
    end: () => {
      if (to.pitch !== from.pitch)
        edit([{ op: "chords.drag", ...on, from: place(rungOf(g, pitch) ?? from), to: place(to) }]);
      else takeAway();
    },
  };
  const all = g.view.pitches[step] ?? [];
  return upOrAside(
    p,
    up,
    moveAside(g, p, step, (to) => ({ ghosts: all.map((pitch) => ({ step: to, pitch })) })),
    () => {
      app.select([step], step);
      takeAway();
    },
  );
}

const rungOf = (g: ChordsGround, pitch: number): Rung | undefined => g.view.ladder.find((r) => r.pitch === pitch);

/** Selects a chord by its name, and moves it in time with what else is selected; what it meets changes places with it. */
function dragName(g: ChordsGround, p: Point, mark: ChordMark): Gesture {
  const app = useApp.getState();
  if (!app.selection.includes(mark.step)) app.select([mark.step], mark.step);
  g.sound(mark.pitches);
  return moveAside(g, p, mark.step, (step) => ({ ghosts: mark.pitches.map((pitch) => ({ step, pitch })) }));
}

/** Makes a chord last by the end of its name. */
function dragEdge(g: ChordsGround, mark: ChordMark): Gesture {
  let until = mark.until;
  useApp.getState().select([mark.step], mark.step);
  const note = g.view.notes.findIndex((n) => n.at === mark.at);
  return {
    heard: true,
    move: (now) => {
      until = Math.max(g.tick(now.x), mark.at + 1);
      return note < 0 ? {} : { edge: { note, end: until } };
    },
    end: () => {
      const most = g.lane.steps.length - mark.step;
      const steps = Math.min(Math.max(1, Math.round((until - mark.at) / g.view.stepTicks)), most);
      if (steps !== mark.held) edit([{ op: "chords.hold", clip: g.clip, lane: g.lane.id, step: mark.step + 1, steps }]);
    },
  };
}
