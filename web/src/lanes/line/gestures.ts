import type { Rung } from "../../api/gen/pitch.gen";
import type { Op } from "../../api/gen/schema.gen";
import { nearestRung, noteAt, rungAt, slotAt } from "../../canvas/drawing/geometry";
import { handleAt, takeHandle } from "../../canvas/gestures/bends";
import { moveAside, upOrAside } from "../../canvas/gestures/aside";
import { dragEnd, onRail, frameSteps, nearEnd } from "../../canvas/gestures/shared";
import type { Draft, Gesture, Ground, Point } from "../../canvas/gestures/gesture";
import { useApp } from "../../state/store";
import type { Ghost } from "../../state/app";
import { useHands } from "../notes/state";
import { drawStrokeAlong } from "../notes/stroke";
import type { LineLane } from "./line";

type LineGround = Ground<LineLane>;

const place = (r: Rung) => ({ degree: r.degree, octave: r.octave, alter: r.alter });

/** A note on a rung, in the slot that the pointer was in: a lane that follows roots
 * counts from the one under it there. */
interface Put {
  rung: Rung;
  slot: number;
}

function putNotes(g: LineGround, put: ReadonlyMap<number, Put>): Op {
  const notes = [...put].map(([step, { rung, slot }]) => ({
    step: step + 1,
    at: place(rung),
    ticks: g.view.slotAt[slot]!,
  }));
  return { op: "notes.put", clip: g.clip, lane: g.lane.id, notes };
}

/** Begins the gesture that fits where the pointer went down. Nothing is a mode:
 * the place decides, with Shift to select and Alt to draw a contour. */
export function begin(g: LineGround, p: Point): Gesture | null {
  const drawn = onRail(g, p);
  if (drawn !== undefined) return drawn;
  const held = takeHandle(g, p);
  if (held) return held;
  if (p.alt) return useHands.getState().motif?.lane === g.lane.id ? drawStrokeAlong(g, p) : drawContour(g, p);
  if (!rungAt(g.band, p.y)) return null;
  if (p.shift) return frameSteps(g, p);
  const tick = g.tick(p.x);
  const note = noteAt(g.view, g.band, tick, p.y, g.slack);
  if (note < 0) return paint(g, p);
  return nearEnd(g, note, tick) ? dragEnd(g, note) : dragPitch(g, p, note);
}

/** The mouse pointer over a place. */
export function pointer(g: LineGround, p: Point, note: number): string {
  if (handleAt(g, p)) return "move";
  if (note < 0) return g.band.open ? "crosshair" : "default";
  return g.band.open && nearEnd(g, note, g.tick(p.x)) ? "ew-resize" : "pointer";
}

/** Puts notes where the pointer goes, one a slot. */
function paint(g: LineGround, p: Point): Gesture {
  const put = new Map<number, Put>();
  const draft = (): Draft => ({ ghosts: [...put].map(([step, { rung }]) => ({ step, pitch: rung.pitch })) });
  let lastSlot = slotAt(g.view, g.tick(p.x));
  const add = (slot: number, rung: Rung) => {
    const step = g.view.slots[slot]!;
    if (put.get(step)?.rung.pitch !== rung.pitch) g.sound([rung.pitch]);
    put.set(step, { rung, slot });
  };
  add(lastSlot, nearestRung(g.band, p.y));
  return {
    heard: true,
    move: (now) => {
      const slot = slotAt(g.view, g.tick(now.x));
      const way = slot > lastSlot ? 1 : -1;
      for (let k = lastSlot; k !== slot; k += way) add(k + way, nearestRung(g.band, now.y));
      if (slot === lastSlot) add(slot, nearestRung(g.band, now.y));
      lastSlot = slot;
      return draft();
    },
    end: () => {
      const ghosts: Ghost[] = [...put].map(([step, { rung }]) => ({ lane: g.lane.id, step, pitch: rung.pitch }));
      const app = useApp.getState();
      app.select([...put.keys()], g.view.slots[lastSlot]);
      void app.edit([putNotes(g, put)], ghosts);
    },
  };
}

/** Selects the step under the pointer and moves it up and down, or aside; of several that are selected all go aside. */
function dragPitch(g: LineGround, p: Point, note: number): Gesture {
  const slot = slotAt(g.view, g.tick(p.x));
  const under = g.view.slots[slot]!;
  const app = useApp.getState();
  const chosen = g.lane.steps[under]?.on ? under : g.view.notes[note]!.step;
  const own = g.view.notes[note]!;
  const pitch = chosen === own.step ? own.pitch : (g.view.pitches[chosen]?.[0] ?? own.pitch);
  if (!app.selection.includes(chosen)) app.select([chosen], chosen);
  let rung: Rung | undefined;
  const start = nearestRung(g.band, p.y).pitch;
  g.sound([pitch]);
  const up: Gesture = {
    lifts: true,
    heard: true,
    move: (now) => {
      app.select([chosen], chosen);
      const next = nearestRung(g.band, now.y);
      if (next.pitch === (rung?.pitch ?? start)) return rung ? { ghosts: [{ step: chosen, pitch: rung.pitch }] } : {};
      rung = next;
      g.sound([next.pitch]);
      return { ghosts: [{ step: chosen, pitch: next.pitch }] };
    },
    end: () => {
      if (!rung || rung.pitch === pitch) return;
      void useApp
        .getState()
        .edit(
          [putNotes(g, new Map([[chosen, { rung, slot }]]))],
          [{ lane: g.lane.id, step: chosen, pitch: rung.pitch }],
        );
    },
  };
  return upOrAside(
    p,
    up,
    moveAside(g, p, chosen, (to) => ({ ghosts: [{ step: to, pitch }] })),
    () => app.select([chosen], chosen),
  );
}

/** Draws a contour freehand: the pitches of the steps it crosses follow it, and
 * the rhythm stays. */
function drawContour(g: LineGround, p: Point): Gesture {
  const points: [number, number][] = [[p.x, p.y]];
  const put = new Map<number, Put>();
  const add = (x: number, y: number) => {
    const slot = slotAt(g.view, g.tick(x));
    put.set(g.view.slots[slot]!, { rung: nearestRung(g.band, y), slot });
  };
  add(p.x, p.y);
  return {
    heard: true,
    move: (now) => {
      const [x, y] = points.at(-1)!;
      const pieces = Math.max(1, Math.ceil(Math.abs(now.x - x) / 4));
      for (let i = 1; i <= pieces; i++) add(x + ((now.x - x) * i) / pieces, y + ((now.y - y) * i) / pieces);
      points.push([now.x, now.y]);
      return { stroke: { kind: "contour", points: [...points] } };
    },
    end: () => {
      const steps = [...put.keys()];
      const app = useApp.getState();
      app.select(steps);
      void app.edit([
        {
          op: "fill.contour",
          clip: g.clip,
          lane: g.lane.id,
          steps: steps.map((n) => n + 1),
          places: [...put.values()].map(({ rung }) => place(rung)),
          ticks: [...put.values()].map(({ slot }) => g.view.slotAt[slot]!),
        },
      ]);
    },
  };
}
