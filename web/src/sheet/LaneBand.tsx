import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { audition } from "../audio/player";
import type { Lane as LaneDoc } from "../api/gen/piece.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { useApp, type Ghost } from "../state/store";
import { dyes, token } from "../theme";
import { draw } from "./draw";
import { begin, type Draft, type Gesture, type Ground, type Point } from "./gestures";
import { bandOf, noteAt, slotAt, yOf } from "./geometry";
import { GUTTER, useSheet } from "./sheetState";

interface Props {
  lane: LaneDoc;
  view: LaneView;
  clip: string;
  ticks: number;
  barTicks: number;
  beatTicks: number;
  index: number;
  open: boolean;
}

const noGhosts: Ghost[] = [];
const noReach = { low: 0, high: 0 };
const nothing: ReadonlySet<number> = new Set();

/** One lane on the time axis: its ladder, pods and rails, drawn on a canvas. */
export const LaneBand = memo(function LaneBand({ lane, view, ticks, barTicks, beatTicks, clip, index, open }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const gesture = useRef<Gesture | null>(null);
  /** Whether each of the last two presses met a note: a double click removes
   * only what was there before it. */
  const met = useRef([false, false]);
  const [drafted, setDrafted] = useState<Draft>({});
  // A band out of sight neither scrolls nor draws.
  const [seen, setSeen] = useState(false);
  const zoom = useSheet((s) => s.zoom);
  const width = useSheet((s) => s.width);
  const scroll = useSheet((s) => (seen ? s.scroll : 0));
  const room = useSheet((s) => (open ? s.room : 0));
  const reach = useSheet((s) => s.reach[lane.id]) ?? noReach;
  const selectionList = useApp((s) => (s.lane === lane.id ? s.selection : null));
  const cursor = useApp((s) => (s.lane === lane.id ? s.cursor : -1));
  const ghosts = useApp((s) => (s.ghosts.some((g) => g.lane === lane.id) ? s.ghosts : noGhosts));
  const hover = useApp((s) => (s.hover?.lane === lane.id ? s.hover.note : -1));
  const selection = useMemo(() => (selectionList ? new Set(selectionList) : nothing), [selectionList]);
  const band = useMemo(() => bandOf(view, lane.steps, open, reach, room), [view, lane.steps, open, reach, room]);

  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen || !zoom || !seen) return;
    const ratio = window.devicePixelRatio || 1;
    const [w, h] = [Math.round((width + GUTTER) * ratio), Math.round(band.height * ratio)];
    if (el.width !== w) el.width = w;
    if (el.height !== h) el.height = h;
    draw(pen, {
      view, steps: lane.steps, band, hue: token(dyes[index % dyes.length]), zoom, scroll, width,
      ticks, barTicks, beatTicks,
      selection, cursor, hover, muted: !view.audible,
      ghosts: drafted.ghosts ?? ghosts.filter((g) => g.lane === lane.id),
      draft: drafted.draft ?? null, stroke: drafted.stroke ?? null, edge: drafted.edge ?? null,
    });
  });

  useEffect(() => {
    const watcher = new IntersectionObserver(([entry]) => setSeen(entry.isIntersecting), { rootMargin: "120px" });
    watcher.observe(canvas.current!);
    return () => watcher.disconnect();
  }, []);

  const ground = (): Ground => ({
    clip, lane, view, band, tick: (x) => (x - GUTTER + scroll) / zoom, slack: 4 / zoom,
  });
  const point = (e: React.PointerEvent | React.MouseEvent): Point => {
    const box = canvas.current!.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top, shift: e.shiftKey, alt: e.altKey };
  };

  useEffect(() => where(lane.id, (step, pitch) => {
    const box = canvas.current!.getBoundingClientRect();
    const slot = view.slots.indexOf(step);
    return { x: box.left + GUTTER + (slot + 0.5) * view.stepTicks * zoom - scroll, y: box.top + yOf(band, pitch), step: view.stepTicks * zoom };
  }), [lane.id, view, band, zoom, scroll]);

  const down = (e: React.PointerEvent) => {
    if (e.button !== 0) return;
    const p = point(e);
    const wasOpen = open;
    useApp.getState().openLane(lane.id);
    (canvas.current!.closest("[role=application]") as HTMLElement | null)?.focus({ preventScroll: true });
    if (p.x < GUTTER || !view.slots.length) return;
    if (!wasOpen) {
      const step = view.slots[slotAt(view, ground().tick(p.x))];
      useApp.getState().select([step], step);
      return;
    }
    const g = ground();
    met.current = [met.current[1], noteAt(view, band, g.tick(p.x), p.y, g.slack) >= 0];
    gesture.current = begin(g, p, (pitch) => audition(lane, pitch));
    canvas.current!.setPointerCapture(e.pointerId);
    if (gesture.current) setDrafted(gesture.current.move(p));
  };
  const move = (e: React.PointerEvent) => {
    const p = point(e);
    if (gesture.current) {
      setDrafted(gesture.current.move(p));
      return;
    }
    const g = ground();
    const note = p.x < GUTTER ? -1 : noteAt(view, band, g.tick(p.x), p.y, g.slack);
    const now = useApp.getState().hover;
    if (note < 0 ? now !== null : now?.lane !== lane.id || now.note !== note) {
      useApp.getState().set({ hover: note < 0 ? null : { lane: lane.id, note } });
    }
    if (canvas.current) canvas.current.style.cursor = cursorFor(g, note, p);
  };
  const up = () => {
    gesture.current?.end();
    gesture.current = null;
    setDrafted({});
  };
  const remove = (e: React.MouseEvent) => {
    const p = point(e);
    const g = ground();
    const note = open ? noteAt(view, band, g.tick(p.x), p.y, g.slack) : -1;
    if (note >= 0 && met.current[0]) void useApp.getState().edit([{ op: "steps.set", clip, lane: lane.id, steps: [view.notes[note][4] + 1], patch: { on: false } }]);
  };

  return (
    <canvas
      ref={canvas}
      data-lane={lane.id}
      style={{ width: width + GUTTER, height: band.height, display: "block", touchAction: "none" }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        gesture.current = null;
        setDrafted({});
      }}
      onPointerLeave={() => useApp.getState().hover && useApp.getState().set({ hover: null })}
      onDoubleClick={remove}
    />
  );
});

function cursorFor(g: Ground, note: number, p: Point): string {
  if (note < 0) return g.band.open && p.x > GUTTER ? "crosshair" : "default";
  const [at, length] = g.view.notes[note];
  return g.band.open && Math.abs(at + length - g.tick(p.x)) <= Math.min(g.slack * 2, length * 0.3) ? "ew-resize" : "pointer";
}

type Finder = (step: number, pitch: number) => { x: number; y: number; step: number };

/** Where steps and pitches stand on screen, lane by lane, for whoever drives the
 * page from outside: tests, and assistive scripts. */
function where(lane: string, find: Finder): () => void {
  const open = ((window as unknown as { agrimony?: Record<string, Finder> }).agrimony ??= {});
  open[lane] = find;
  return () => {
    if (open[lane] === find) delete open[lane];
  };
}
