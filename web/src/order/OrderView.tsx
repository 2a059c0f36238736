import { useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Order } from "../api/gen/view.gen";
import { useOrderView } from "../api/queries";
import { orderPosition, usePlaying } from "../state/player";
import { Choice } from "../controls/Choice";
import { many } from "../words";
import { useApp } from "../state/store";
import { Bands, InWords } from "./Bands";
import { ROW, RULER } from "./draw";
import { endOf, type Live } from "./live";
import { listenHere, useTaught } from "./midi";
import { list, playOrder, showOrder, stopOrder, units, useOrder, written } from "./state";
import { Foot } from "./Foot";
import { Heads } from "./Heads";
import css from "./order.module.css";

const words: Record<(typeof units)[number], string> = {
  beat: "next beat",
  "1": "next bar",
  "2": "next 2 bars",
  "4": "next 4 bars",
  "8": "next 8 bars",
  loop: "end of its loop",
};

/** How wide the names of the clips stand beside the bands, in pixels. */
const HEADS = 250;

/** The running order: all clips on one axis, brought in and out while it plays. */
export default function OrderView() {
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const { data, error } = useOrderView(id, version);
  const view = useOrder((s) => s.view);
  const set = useOrder.getState().set;
  const first = useOrder((s) => s.first);
  useEffect(() => {
    if (data) set({ view: arranged(data, first) });
  }, [data, first, set]);
  const fitted = useRef("");
  const body = useRef<HTMLDivElement>(null);
  const top = useOrder((s) => s.top);
  const [height, setHeight] = useState(500);
  const laid = view !== null;
  useLayoutEffect(() => {
    const el = body.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setHeight(el.clientHeight));
    watch.observe(el);
    return () => watch.disconnect();
  }, [laid]);
  useEffect(() => {
    if (!view || fitted.current === id) return;
    fitted.current = id;
    const bars = Math.max(view.ticks / view.barTicks, 16) + 2;
    set({ zoom: Math.max((window.innerWidth - HEADS) / bars, 2), scroll: 0 });
  }, [view, id, set]);
  // The view follows the entry that is chosen last.
  const last = useOrder((s) => s.chosen[s.chosen.length - 1]);
  useEffect(() => {
    const { view: own, zoom, scroll, top: now } = useOrder.getState();
    const entry = own?.entries.find((e) => e.number === last);
    if (!own || !entry) return;
    const row = own.clips.findIndex((c) => c.id === entry.clip) * ROW;
    const room = height - RULER;
    useOrder.getState().set({ top: row < now ? row : row + ROW > now + room ? row + ROW - room : now });
    const shown = ((body.current?.clientWidth ?? 1000) - HEADS) / (zoom / own.barTicks);
    if (entry.at < scroll || entry.at >= scroll + shown)
      useOrder.getState().set({ scroll: Math.max(entry.at - shown / 4, 0) });
  }, [last, height]);
  if (error && !view) return <p role="alert">{error.message}</p>;
  if (!view) return <p className={css.wait}>Laying the clips out</p>;
  return (
    <section className={css.page} aria-label="Running order">
      <Top />
      <div
        ref={body}
        className={css.body}
        onWheel={(e) => {
          if (!e.shiftKey && !e.ctrlKey && !e.metaKey && Math.abs(e.deltaY) >= Math.abs(e.deltaX))
            set({ top: Math.min(Math.max(top + e.deltaY, 0), Math.max(view.clips.length * ROW + RULER - height, 0)) });
        }}
      >
        <Heads top={top} />
        <Bands top={top} height={height - RULER} />
      </div>
      <InWords />
      <Foot />
    </section>
  );
}

/** The view with some clips first. They stay where they are when others come in: rows do not move under the hand. */
function arranged(view: Order, first: readonly string[] | null): Order {
  if (!first) return view;
  const played = new Set(first);
  const [front, rest] = [view.clips.filter((c) => played.has(c.id)), view.clips.filter((c) => !played.has(c.id))];
  return { ...view, clips: [...front, ...rest] };
}

/** What is set for all: when clips come in, playing, throwing away, the sheet. */
function Top() {
  const { unit, live, touched, loop, zoom, cursor, first, set } = useOrder();
  const view = useOrder((s) => s.view)!;
  return (
    <div className={css.top}>
      <button type="button" onClick={() => showOrder(false)} title="Shift O">
        Back to the sheet
      </button>
      <label htmlFor="order-unit">Clips come in and go at the</label>
      <Choice
        id="order-unit"
        label="When clips come in and go"
        value={unit}
        all={units}
        words={words}
        onChange={(next) => set({ unit: next as typeof unit })}
      />
      <button type="button" aria-pressed={!!live} onClick={() => (live ? void stopOrder() : void playOrder())}>
        {live ? (touched ? "Stop, and keep it" : "Stop") : "Play from here"}
      </button>
      {live && touched && (
        <button type="button" onClick={() => void stopOrder(false)}>
          Throw it away
        </button>
      )}
      <Place />
      <span className={css.grow} />
      <button
        type="button"
        className={css.kept}
        aria-pressed={first !== null}
        title="Clips that are played stand first"
        onClick={() => set({ first: first ? null : [...new Set(list().map((e) => e.clip))], top: 0 })}
      >
        Played first
      </button>
      <button
        type="button"
        aria-haspopup="dialog"
        title="Here, on MIDI ports, or both; the clock (Shift P)"
        onClick={() => useApp.getState().set({ panel: "ports" })}
      >
        Where it sounds
      </button>
      <Listening />
      {loop && (
        <button type="button" onClick={() => set({ loop: null })}>
          Loop no longer
        </button>
      )}
      {cursor > 0 && !live && (
        <button type="button" onClick={() => set({ cursor: 0, scroll: 0 })}>
          To the start
        </button>
      )}
      <button type="button" aria-label="Show more time" onClick={() => set({ zoom: Math.max(zoom / 1.5, 1) })}>
        −
      </button>
      <button type="button" aria-label="Show less time" onClick={() => set({ zoom: Math.min(zoom * 1.5, 800) })}>
        +
      </button>
      <button
        type="button"
        aria-label="Show all of it"
        onClick={() =>
          set({
            zoom: Math.max((window.innerWidth - HEADS) / (Math.max(view.ticks / view.barTicks, 16) + 2), 1),
            scroll: 0,
          })
        }
      >
        all
      </button>
    </div>
  );
}

/** Whether keyboards and pads are heard. */
function Listening() {
  const heard = useTaught((s) => s.heard);
  return (
    <button type="button" aria-pressed={heard !== null} onClick={() => void listenHere()}>
      {heard ? (heard.length ? `MIDI: ${heard.join(", ")}` : "MIDI: nothing is plugged in") : "Listen to MIDI"}
    </button>
  );
}

/** Where it is, and what waits. */
function Place() {
  const view = useOrder((s) => s.view)!;
  const live = useOrder((s) => s.live);
  const cursor = useOrder((s) => s.cursor);
  const playing = usePlaying();
  const [tick, setTick] = useState(0);
  useEffect(() => {
    if (!playing || !live) return;
    const look = window.setInterval(() => setTick(orderPosition().tick), 80);
    return () => window.clearInterval(look);
  }, [playing, live]);
  const now = live ? tick : cursor;
  const name = (e: Live) => view.clips.find((c) => c.id === e.clip)?.name ?? e.clip;
  const changes = (live ?? []).flatMap((e) => [
    ...(e.at > now && !e.goesOn && !live?.some((o) => o.clip === e.clip && endOf(o) === e.at)
      ? [{ tick: e.at, text: `${name(e)} comes` }]
      : []),
    ...(!e.open && endOf(e) > now && !live?.some((o) => o.clip === e.clip && o.at === endOf(e))
      ? [{ tick: endOf(e), text: `${name(e)} goes` }]
      : []),
  ]);
  const next = changes.sort((a, b) => a.tick - b.tick)[0];
  const beats = next ? Math.ceil((next.tick - now) / view.beatTicks) : 0;
  const sounds = (live ?? written()).some((e) => e.at <= now && now < endOf(e));
  return (
    <span className={css.place}>
      <span className="mono" data-testid="order-place">
        {Math.floor(now / view.barTicks) + 1}.{Math.floor((now % view.barTicks) / view.beatTicks) + 1}
      </span>
      {live && next && beats <= 64 && (
        <span data-testid="waits">
          {next.text} in {many(beats, "beat")}
        </span>
      )}
      {live && !sounds && !next && (
        <span className="quiet">Nothing in this bar: press a clip's key to bring it in.</span>
      )}
    </span>
  );
}
