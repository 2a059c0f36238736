import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import type { OrderEntry } from "../api/gen/view.gen";
import { orderPosition, usePlaying } from "../state/player";
import { useApp } from "../state/store";
import { draw, drawMoving, ROW, RULER, ruler, type Sheet } from "./draw";
import { list, playOrder, useOrder } from "./state";
import css from "./order.module.css";
import { useLight } from "../light";
import { BAR, BEAT } from "../api/default";

/** How near to an entry's end one has to be to stretch it, in pixels. */
const EDGE = 7;

type Drag =
  | { what: "move" | "start" | "end"; entry: OrderEntry; from: number; by: number; copy: boolean }
  | { what: "new"; clip: string; from: number; to: number }
  | { what: "loop"; from: number; to: number };

/** Whether values are other than they were, which are then kept. */
function changed(was: RefObject<readonly unknown[]>, now: readonly unknown[]): boolean {
  if (now.length === was.current.length && now.every((v, i) => v === was.current[i])) return false;
  was.current = now;
  return true;
}

/** The bands of all clips on one time axis, and the ruler over them. */
export function Bands({ top, height }: { top: number; height: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const light = useLight();
  const over = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(800);
  const [drag, setDrag] = useState<Drag | null>(null);
  const view = useOrder((s) => s.view)!;
  const { live, chosen, cursor, loop, zoom, scroll } = useOrder();
  const playing = usePlaying();
  const scale = zoom / view.barTicks;
  const edit = useApp.getState().edit;
  const set = useOrder.getState().set;

  useLayoutEffect(() => {
    const el = frame.current!;
    const watch = new ResizeObserver(() => setWidth(el.clientWidth));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  const [beat, setBeat] = useState(0);
  /** The entries that a drag moves. */
  const moving = (d: Extract<Drag, { entry: OrderEntry }>) =>
    d.what === "move" && chosen.includes(d.entry.number) ? chosen : [d.entry.number];
  const sheet = (): Sheet => {
    const moved = (e: OrderEntry): OrderEntry => {
      if (!drag || !("entry" in drag) || drag.copy || !(chosen.includes(e.number) || drag.entry.number === e.number))
        return e;
      if (drag.what === "move") return { ...e, at: Math.max(e.at + drag.by, 0) };
      if (drag.entry.number !== e.number) return e;
      if (drag.what === "end") return { ...e, for: Math.max(e.for + drag.by, 1) };
      return { ...e, at: e.at + drag.by, for: Math.max(e.for - drag.by, 1) };
    };
    return {
      view,
      entries: live ?? view.entries.map(moved),
      chosen: new Set(live ? [] : chosen),
      scale,
      scroll,
      width,
      height,
      top,
      now: playing && live ? orderPosition().tick : null,
      draft:
        drag?.what === "new"
          ? { clip: drag.clip, at: Math.min(drag.from, drag.to), for: Math.max(Math.abs(drag.to - drag.from), 1) }
          : drag && "entry" in drag && drag.copy
            ? { clip: drag.entry.clip, at: drag.entry.at + drag.by, for: drag.entry.for }
            : null,
      moving: new Set(drag && "entry" in drag && !drag.copy ? moving(drag) : []),
      loop: drag?.what === "loop" && drag.to > drag.from ? drag : loop,
      cursor,
    };
  };
  const paint = (el: HTMLCanvasElement | null, tall: number, work: typeof draw) => {
    const ratio = window.devicePixelRatio || 1;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    if (el.width !== Math.round(width * ratio) || el.height !== Math.round(tall * ratio)) {
      el.width = Math.round(width * ratio);
      el.height = Math.round(tall * ratio);
    }
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    work(pen, sheet());
  };
  /** Whether an entry is wholly in sight where it is and by so many ticks later. */
  const inside = (e: OrderEntry, by: number): boolean =>
    Math.min(e.at, e.at + by) >= Math.max(scroll, 0) && (Math.max(e.at, e.at + by) + e.for - scroll) * scale <= width;
  // What lies still is drawn when it changes. What the hand moves is drawn as it takes hold of it, and then
  // shifted as a whole, as long as nothing of it comes into sight or to the beginning.
  const still = useRef<readonly unknown[]>([]);
  const overlay = useRef<readonly unknown[]>([]);
  const drawnAt = useRef(0);
  useLayoutEffect(() => {
    const own = drag && "entry" in drag && !drag.copy ? moving(drag) : [];
    const held = own.join();
    const place = [view, live, scale, scroll, width, height, top, chosen, playing, light];
    const stretched = drag?.what === "loop" ? drag : null;
    const now = [...place, cursor, loop, beat, held, stretched];
    if (changed(still, now)) {
      paint(canvas.current, height, draw);
      paint(head.current, RULER, ruler);
    }
    const by = drag?.what === "move" && !drag.copy ? drag.by : 0;
    const whole = drag?.what === "move" && own.length > 0 && own.every((n) => inside(view.entries[n - 1]!, by));
    if (changed(overlay, [...place, whole ? held : drag])) {
      drawnAt.current = by;
      paint(over.current, height, drawMoving);
    }
    over.current!.style.transform = `translateX(${(by - drawnAt.current) * scale}px)`;
  });

  // The line of now goes on by itself; the bands are drawn anew as what waits begins.
  useEffect(() => {
    if (!playing || !live) return;
    let frameId = 0;
    const go = () => {
      const { tick } = orderPosition();
      const { scroll: from, zoom: px, set: put, view: own } = useOrder.getState();
      const at = ((tick - from) * px) / (own?.barTicks ?? BAR);
      if (line.current) {
        line.current.style.transform = `translateX(${at}px)`;
        line.current.dataset.tick = String(Math.round(tick));
      }
      if (at > width * 0.9 && !drag) put({ scroll: from + ((width * 0.6) / px) * (own?.barTicks ?? BAR) });
      setBeat(Math.floor(tick / (own?.beatTicks ?? BEAT)));
      frameId = requestAnimationFrame(go);
    };
    frameId = requestAnimationFrame(go);
    return () => cancelAnimationFrame(frameId);
  }, [playing, live, width, drag]);

  const tickOf = (e: PointerEvent | React.WheelEvent, unit = view.beatTicks): number => {
    const x = e.clientX - frame.current!.getBoundingClientRect().left;
    const tick = Math.max(scroll + x / scale, 0);
    return e.altKey ? Math.round(tick) : Math.round(tick / unit) * unit;
  };
  const clipAt = (e: PointerEvent) => {
    const y = e.clientY - canvas.current!.getBoundingClientRect().top + top;
    return view.clips[Math.floor(y / ROW)]?.id;
  };
  const entryAt = (e: PointerEvent) => {
    const x = e.clientX - frame.current!.getBoundingClientRect().left;
    const clip = clipAt(e);
    const px = (t: number) => (t - scroll) * scale;
    const entry = view.entries.find((o) => o.clip === clip && px(o.at) - 2 <= x && x <= px(o.at + o.for) + 2);
    if (!entry) return null;
    const wide = entry.for * scale;
    const edge = Math.min(EDGE, wide / 3);
    const what = x - px(entry.at) < edge ? "start" : px(entry.at + entry.for) - x < edge ? "end" : "move";
    return { entry, what } as const;
  };

  const press = (e: PointerEvent<HTMLCanvasElement>) => {
    if (e.button !== 0 || live) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    const found = entryAt(e);
    if (found) {
      const { entry, what } = found;
      if (e.shiftKey)
        set({
          chosen: chosen.includes(entry.number) ? chosen.filter((n) => n !== entry.number) : [...chosen, entry.number],
        });
      else if (!chosen.includes(entry.number)) set({ chosen: [entry.number] });
      setDrag({ what, entry, from: tickOf(e, 1), by: 0, copy: e.ctrlKey || e.metaKey });
      return;
    }
    const clip = clipAt(e);
    set({ chosen: [] });
    const from = Math.floor(tickOf(e, 1) / view.beatTicks) * view.beatTicks;
    if (clip) setDrag({ what: "new", clip, from, to: from });
  };
  const move = (e: PointerEvent<HTMLCanvasElement>) => {
    if (!drag) {
      const what = live ? null : entryAt(e)?.what;
      e.currentTarget.style.cursor = what === "move" ? "grab" : what ? "ew-resize" : "default";
      return;
    }
    if ("entry" in drag) {
      const unit = e.altKey ? 1 : view.beatTicks;
      const by = Math.round((tickOf(e, 1) - drag.from) / unit) * unit;
      setDrag({ ...drag, by: Math.max(by, -drag.entry.at) });
    } else setDrag({ ...drag, to: tickOf(e) });
  };
  const drop = () => {
    const done = drag;
    setDrag(null);
    if (!done) return;
    if (done.what === "new") {
      const at = Math.min(done.from, done.to);
      const length = Math.abs(done.to - done.from);
      if (length > 0) void edit([{ op: "order.add", entries: [{ clip: done.clip, at, for: length }] }]);
      else set({ cursor: at });
    } else if ("entry" in done && done.by !== 0) {
      const own = chosen.includes(done.entry.number) ? chosen : [done.entry.number];
      if (done.copy) void edit([{ op: "order.copy", entries: own, by: done.by }]);
      else if (done.what === "move") void edit([{ op: "order.move", entries: own, by: done.by }]);
      else
        void edit([{ op: "order.stretch", entries: [done.entry.number], by: done.by, start: done.what === "start" }]);
    }
  };
  /** A double click puts a whole round of a clip. */
  const put = (e: React.MouseEvent<HTMLCanvasElement>) => {
    const clip = view.clips.find((c) => c.id === clipAt(e as unknown as PointerEvent));
    if (!clip || live || entryAt(e as unknown as PointerEvent)) return;
    const at = Math.floor(tickOf(e as unknown as PointerEvent, 1) / view.barTicks) * view.barTicks;
    void edit([{ op: "order.add", entries: [{ clip: clip.id, at, for: clip.length || 4 * view.barTicks }] }]);
  };
  const wheel = (e: React.WheelEvent) => {
    if (e.ctrlKey || e.metaKey) {
      const at = tickOf(e, 1);
      const next = Math.min(Math.max(zoom * (e.deltaY < 0 ? 1.2 : 1 / 1.2), 1), 800);
      const x = (at - scroll) * scale;
      set({ zoom: next, scroll: Math.max(at - (x / next) * view.barTicks, 0) });
    } else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) {
      set({ scroll: Math.max(scroll + (e.deltaX || e.deltaY) / scale, 0) });
    }
  };
  return (
    <div ref={frame} className={css.frame} data-zooms onWheel={wheel}>
      <canvas
        ref={head}
        className={css.ruler}
        style={{ width, height: RULER }}
        aria-hidden
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          const from = tickOf(e);
          setDrag({ what: "loop", from, to: from });
        }}
        onPointerMove={(e) => drag?.what === "loop" && setDrag({ ...drag, to: tickOf(e) })}
        onPointerUp={() => {
          if (drag?.what !== "loop") return;
          setDrag(null);
          if (drag.to > drag.from) set({ loop: { from: drag.from, to: drag.to } });
          else set({ cursor: drag.from, loop: null });
          if (live) void playOrder(drag.from);
        }}
      />
      <canvas
        ref={canvas}
        className={css.bands}
        style={{ width, height }}
        data-testid="bands"
        aria-label="The running order"
        role="img"
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={drop}
        onDoubleClick={put}
      />
      <canvas ref={over} className={css.over} style={{ width, height, top: RULER }} aria-hidden />
      {playing && live && <div ref={line} className={css.now} data-testid="order-now" />}
    </div>
  );
}

/** The entries of the order in words, for those who cannot see the bands. */
export function InWords() {
  const view = useOrder((s) => s.view)!;
  const place = (t: number) =>
    `bar ${Math.floor(t / view.barTicks) + 1}, beat ${Math.floor((t % view.barTicks) / view.beatTicks) + 1}`;
  return (
    <ol className="visually-hidden" aria-label="Entries">
      {(list().length ? view.entries : []).map((e) => (
        <li key={e.number}>
          {view.clips.find((c) => c.id === e.clip)?.name} from {place(e.at)} to {place(e.at + e.for)}
          {e.silent && `, silent: ${e.silent}`}
        </li>
      ))}
    </ol>
  );
}
