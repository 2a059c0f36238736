import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { audition } from "../state/player";
import type { Lane } from "../api/gen/schema.gen";
import type { Harmony, Lane as LaneView } from "../api/gen/view.gen";
import { noteAt, slotAt, yOf } from "../canvas/drawing/geometry";
import { lastAt } from "../sorted";
import { GUTTER } from "../canvas/drawing/ground";
import { overSeam, takeSeam } from "../canvas/gestures/seams";
import type { Draft, Gesture, Ground, Point } from "../canvas/gestures/gesture";
import { onEscape, spent } from "../controls/hands";
import { eraseOp } from "../api/free";
import { kindOf } from "../lanes/kinds";
import { placesOf, useApp, whileHeld } from "../state/store";
import type { Ghost } from "../state/app";
import { dyes, token } from "../theme";
import { lookOf, lowestOf, useSheet, zoomOf } from "../state/sheet";
import { useStems } from "../state/stems";
import { useLight } from "../light";

interface Props {
  lane: Lane;
  view: LaneView;
  clip: string;
  ticks: number;
  barTicks: number;
  beatTicks: number;
  index: number;
  height: number;
  /** The chords that its rungs are tinted by; null: none. */
  harmony: Harmony | null;
}

const noGhosts: Ghost[] = [];
const nothing: ReadonlySet<number> = new Set();
const noDraft: Draft = {};
const drawsAny = (draft: Draft): boolean => Object.keys(draft).length > 0;

/** One lane on the time axis, drawn on a canvas by its kind. */
export const LaneBand = memo(function LaneBand(props: Props) {
  const { ticks, barTicks, beatTicks, clip, index, height, harmony } = props;
  /** While a gesture draws what it makes, it draws that over what was there when it began. */
  const [begun, setBegun] = useState<Pick<Props, "lane" | "view"> | null>(null);
  const [drafted, setDrafted] = useState<Draft>(noDraft);
  const { lane, view } = begun && drawsAny(drafted) ? begun : props;
  const kind = kindOf(lane);
  useLight(); // what is drawn changes with it
  const canvas = useRef<HTMLCanvasElement>(null);
  const gesture = useRef<Gesture | null>(null);
  /** Whether each of the last two presses met a note: a double click removes
   * only what was there before it. */
  const met = useRef([false, false]);
  // A band out of sight neither scrolls nor draws.
  const [seen, setSeen] = useState(false);
  const zoom = useSheet(zoomOf);
  const stems = useStems();
  const tried = useApp((s) => s.tried !== null);
  const width = useSheet((s) => s.width);
  const scroll = useSheet((s) => (seen ? s.scroll : 0));
  const open = useSheet((s) => lookOf(s, lane.id).open);
  const lowest = useSheet((s) => lowestOf(lookOf(s, lane.id), height));
  const selected = useApp((s) => (s.lane === lane.id ? s.selection : null));
  const cursor = useApp((s) => (s.lane === lane.id ? s.cursor : -1));
  const ghosts = useApp((s) => (s.ghosts.some((g) => g.lane === lane.id) ? s.ghosts : noGhosts));
  const hover = useApp((s) => (s.hover?.lane === lane.id ? s.hover.note : -1));
  const selection = useMemo(
    () => (selected && (open || kind.live) ? new Set(selected) : nothing),
    [selected, open, kind],
  );
  const band = useMemo(() => kind.band(lane, view, { open, height, lowest }), [kind, lane, view, open, height, lowest]);

  // The rows that an open ladder begins with are kept: notes that come and go move
  // none of them.
  const bottom = open && kind.ladder(view).length ? (band.rows[0]?.pitch ?? null) : null;
  const follow = useSheet((s) => (s.follow?.note && s.follow.lane === lane.id ? s.follow : null));
  const followed = useRef(follow);
  useEffect(() => {
    if (followed.current === follow) return; // the rows come after the hand, never otherwise
    followed.current = follow;
    const at = follow && open ? (view.free?.rows[follow.place] ?? view.pitches[follow.place]?.[0]) : undefined;
    const [first, last] = [band.rows[0]?.pitch, band.rows.at(-1)?.pitch];
    if (at === undefined || first === undefined || last === undefined || (at >= first && at <= last)) return;
    const rows = kind.ladder(view);
    const row = (pitch: number) => lastAt(rows, (r) => r.pitch, pitch);
    scrollLadder(lane.id, rows, first, at < first ? row(at) - row(first) : row(at) - row(last), band.rows.length);
  }, [follow, open, view, band, kind, lane.id]);
  useEffect(() => {
    if (bottom !== null && lowest === null) useSheet.getState().look(lane.id, { lowest: bottom, chosenAt: height });
  }, [lane.id, bottom, lowest, height]);

  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen || !zoom || !seen) return;
    const ratio = window.devicePixelRatio || 1;
    const [w, h] = [Math.round((width + GUTTER) * ratio), Math.round(band.height * ratio)];
    if (el.width !== w) el.width = w;
    if (el.height !== h) el.height = h;
    kind.draw(pen, {
      lane,
      view,
      band,
      hue: token(dyes[index % dyes.length]!),
      harmony,
      zoom,
      scroll,
      width,
      ticks,
      barTicks,
      beatTicks,
      stems,
      selection,
      cursor: open || kind.live ? cursor : -1,
      hover,
      ghosts: drafted.ghosts ?? ghosts.filter((g) => g.lane === lane.id),
      draft: drafted.draft ?? null,
      stroke: drafted.stroke ?? null,
      edge: drafted.edge ?? null,
      pods: drafted.pods ?? null,
    });
  });

  useEffect(() => {
    let gone = false;
    void kind.ready?.().then(() => gone || setDrafted({}));
    return () => {
      gone = true;
    };
  }, [kind]);

  useEffect(() => {
    const watcher = new IntersectionObserver(([entry]) => setSeen(entry?.isIntersecting ?? false), {
      rootMargin: "120px",
    });
    watcher.observe(canvas.current!);
    return () => watcher.disconnect();
  }, []);

  const shown = useRef(band);
  useLayoutEffect(() => {
    shown.current = band;
  });
  const ground = (): Ground => ({
    clip,
    lane,
    view,
    get band() {
      return shown.current;
    },
    tick: (x) => (x - GUTTER + scroll) / zoom,
    slack: 4 / zoom,
    sound: (pitches) => audition(lane, pitches),
  });
  const point = (e: React.PointerEvent | React.MouseEvent): Point => {
    const box = canvas.current!.getBoundingClientRect();
    return {
      x: e.clientX - box.left,
      y: e.clientY - box.top,
      shift: e.shiftKey,
      alt: e.altKey,
      adds: e.ctrlKey || e.metaKey,
    };
  };
  const noteUnder = (p: Point): number => {
    const g = ground();
    return p.x < GUTTER ? -1 : noteAt(view, band, g.tick(p.x), p.y, g.slack);
  };

  const find = useCallback(
    (step: number, pitch: number) => {
      const box = canvas.current!.getBoundingClientRect();
      const slot = view.slots.indexOf(step);
      const at = view.free ? step * view.stepTicks : (view.slotAt[slot] ?? 0);
      const x = box.left + GUTTER + (at + view.stepTicks / 2) * zoom - scroll;
      return { x, y: box.top + yOf(band, pitch), step: view.stepTicks * zoom, top: box.top };
    },
    [view, band, zoom, scroll],
  );
  useEffect(() => where(lane.id, find), [lane.id, find]);

  /** Scrolls the ladder for as long as a note is held beyond its edge. */
  const lift = useRef(0);
  const settle = () => {
    window.clearInterval(lift.current);
    lift.current = 0;
  };
  useEffect(() => settle, []);
  const raise = (p: Point) => {
    const beyond = () => (p.y < shown.current.ladderTop ? 1 : p.y > shown.current.ladderBottom ? -1 : 0);
    settle();
    if (!open || !gesture.current?.lifts || !beyond()) return;
    lift.current = window.setInterval(() => {
      const rows = kind.ladder(view);
      scrollLadder(lane.id, rows, shown.current.rows[0]?.pitch ?? 0, beyond(), shown.current.rows.length);
      if (gesture.current) setDrafted(gesture.current.move(p));
    }, 70);
  };

  const down = (e: React.PointerEvent) => {
    if (e.button !== 0) return;
    const p = point(e);
    const app = useApp.getState();
    app.goTo(lane.id);
    if (useSheet.getState().reading) return;
    if (!open && !kind.live) useSheet.getState().show(lane.id);
    if (p.x < GUTTER || (!view.slots.length && !view.free && placesOf(lane))) return;
    const g = ground();
    if (g.tick(p.x) >= ticks) return; // past the clip's end
    // A press that leaves a field goes to the step and changes nothing.
    if ((!open && !kind.live) || spent()) {
      const under = view.free ? view.notes[noteUnder(p)]?.step : view.slots[slotAt(view, g.tick(p.x))];
      if (under !== undefined) app.select([under], under);
      return;
    }
    met.current = [met.current[1]!, noteUnder(p) >= 0];
    gesture.current = takeSeam(g, p) ?? kind.begin(g, p);
    canvas.current!.setPointerCapture(e.pointerId);
    if (!gesture.current) return;
    setBegun({ lane, view });
    setDrafted(gesture.current.move(p));
  };
  const move = (e: React.PointerEvent) => {
    const p = point(e);
    if (gesture.current) {
      setDrafted(gesture.current.move(p));
      if (gesture.current.heard) whileHeld(gesture.current.end);
      raise(p);
      return;
    }
    const note = noteUnder(p);
    const now = useApp.getState().hover;
    if (note < 0 ? now !== null : now?.lane !== lane.id || now.note !== note) {
      useApp.getState().set({ hover: note < 0 ? null : { lane: lane.id, note } });
    }
    const g = ground();
    canvas.current!.style.cursor = p.x < GUTTER ? "default" : overSeam(g, p) ? "col-resize" : kind.pointer(g, p, note);
  };
  const stop = () => {
    settle();
    gesture.current = null;
    setBegun(null);
    setDrafted(noDraft);
  };
  /** Nothing is made of a gesture that is given up. */
  const giveUp = () => {
    if (gesture.current?.heard) useApp.getState().leave();
    stop();
  };
  const given = useRef(giveUp);
  useEffect(() => {
    given.current = giveUp;
  });
  useEffect(() => (begun ? onEscape(() => given.current()) : undefined), [begun]);
  const remove = (e: React.MouseEvent) => {
    const note = view.notes[open || kind.live ? noteUnder(point(e)) : -1];
    if (useSheet.getState().reading || !note || !kind.erases || !met.current[0]) return;
    void useApp.getState().edit([eraseOp(clip, lane, [note.step])]);
  };
  const wheel = (e: React.WheelEvent) => {
    const rows = kind.ladder(view);
    if (
      !open ||
      e.ctrlKey ||
      e.metaKey ||
      e.shiftKey ||
      rows.length <= band.rows.length ||
      Math.abs(e.deltaX) > Math.abs(e.deltaY)
    )
      return;
    e.stopPropagation();
    scrollLadder(lane.id, rows, band.rows[0]?.pitch ?? 0, -Math.sign(e.deltaY) * 2, band.rows.length);
  };

  return (
    <canvas
      ref={canvas}
      data-lane={lane.id}
      data-tried={tried}
      data-stems={stems.length}
      style={{ width: width + GUTTER, height: band.height, display: "block", touchAction: "none" }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => {
        gesture.current?.end();
        stop();
      }}
      onPointerCancel={giveUp}
      onPointerLeave={() => useApp.getState().hover && useApp.getState().set({ hover: null })}
      onDoubleClick={remove}
      onWheel={wheel}
    />
  );
});

/** Moves a ladder by rows, as far as there are any. */
export function scrollLadder(
  lane: string,
  rows: readonly { pitch: number }[],
  lowest: number,
  by: number,
  shown: number,
): void {
  const at = rows.findIndex((r) => r.pitch >= lowest);
  const next = rows[Math.max(0, Math.min(at + by, rows.length - shown))];
  if (next) useSheet.getState().look(lane, { lowest: next.pitch, chosenAt: null });
}

type Finder = (step: number, pitch: number) => { x: number; y: number; step: number; top: number };

/** Where steps and pitches stand on screen, lane by lane, for whoever drives the
 * page from outside: tests, and assistive scripts. */
function where(lane: string, find: Finder): () => void {
  const open = ((window as unknown as { agrimony?: Record<string, Finder> }).agrimony ??= {});
  open[lane] = find;
  return () => {
    if (open[lane] === find) delete open[lane];
  };
}
