import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { useOrderView } from "../api/queries";
import { orderPosition, usePlaying } from "../audio/player";
import { Choice } from "../controls/Choice";
import { NumberBox } from "../controls/NumberBox";
import { Popup } from "../controls/Popup";
import { many } from "../controls/words";
import { useApp } from "../state/store";
import { dye } from "../theme";
import { Bands, InWords } from "./Bands";
import { ROW, RULER } from "./draw";
import { alone, keyOf, playRoot } from "./keys";
import { at, endOf, mute, turn, type Live } from "./live";
import { listenHere, taughtTo, teach, useTaught } from "./midi";
import { perform, playOrder, showOrder, stopOrder, units, useOrder, written } from "./state";
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
  useEffect(() => {
    if (data) set({ view: data });
  }, [data, set]);
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

/** What is set for all: when clips come in, playing, throwing away, the sheet. */
function Top() {
  const { unit, live, touched, loop, zoom, cursor, set } = useOrder();
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

/** A clip's key, name, length, lanes. */
function Heads({ top }: { top: number }) {
  const view = useOrder((s) => s.view)!;
  const { live, follow, set } = useOrder();
  const playing = usePlaying();
  const [, look] = useState(0);
  useEffect(() => {
    if (!playing || !live) return;
    const timer = window.setInterval(() => look((n) => n + 1), 120);
    return () => window.clearInterval(timer);
  }, [playing, live]);
  const tick = live ? orderPosition().tick : -1;
  const bars = (length: number) => (length ? many(Math.round((length / view.barTicks) * 100) / 100, "bar") : "no end");
  return (
    <div className={css.heads}>
      <div className={css.corner} style={{ height: RULER }}>
        {many(view.clips.length, "clip")}
      </div>
      <div className={css.rows}>
        <ul style={{ transform: `translateY(${-top}px)` }}>
          {view.clips.map((c, i) => {
            const sounding = live ? at(live, c.id, tick) : undefined;
            return (
              <li key={c.id} style={{ height: ROW, borderLeftColor: dye(i) }} data-sounds={!!sounding}>
                <kbd>{keyOf(i)}</kbd>
                <button
                  type="button"
                  className={css.name}
                  aria-pressed={!!sounding}
                  title={`${sounding ? "Take it out" : "Bring it in"} at the boundary; Shift: at once; Alt: only this one`}
                  onClick={(e) =>
                    e.altKey ? alone(c.id) : void perform(c.id, (all, t) => turn(all, c.id, t), e.shiftKey)
                  }
                >
                  {c.name}
                </button>
                <span className={css.length}>{c.silent ? "no notes" : bars(c.length)}</span>
                <button
                  type="button"
                  className={css.follow}
                  aria-pressed={follow === c.id}
                  aria-label={`${c.name} follows the keyboard`}
                  title="Keys move it along its scale"
                  onClick={() => set({ follow: follow === c.id ? "" : c.id })}
                >
                  ♩
                </button>
                <Popup
                  button={
                    <button type="button" className={css.follow} aria-label={`Lanes of ${c.name}`} title="Mute lanes">
                      ▾
                    </button>
                  }
                  position="right-start"
                >
                  {() => (
                    <div className={css.lanes}>
                      {c.lanes.map((l) => {
                        const muted = sounding?.mute?.includes(l.id) ?? false;
                        return (
                          <label key={l.id}>
                            <input
                              type="checkbox"
                              checked={!muted}
                              disabled={!sounding}
                              onChange={() => void perform(c.id, (all, t) => mute(all, c.id, l.id, t))}
                            />
                            {l.name}
                          </label>
                        );
                      })}
                      {!sounding && (
                        <p className="quiet">While it plays, its lanes are muted here from the next boundary on.</p>
                      )}
                      <button type="button" onClick={() => alone(c.id)}>
                        Only this one
                      </button>
                      <Teach clip={c.id} />
                    </div>
                  )}
                </Popup>
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}

/** A key, controller or program of a MIDI device that stands for a clip. */
function Teach({ clip }: { clip: string }) {
  const { teaching, clips } = useTaught();
  const known = taughtTo(clips, clip);
  return (
    <>
      <button type="button" aria-pressed={teaching === clip} onClick={() => void teach(clip)}>
        {teaching === clip ? "Press a key or a pad" : "Teach it a MIDI key"}
      </button>
      {known && <span className="quiet">MIDI: {known}</span>}
    </>
  );
}

const blacks = new Set([1, 3, 6, 8, 10]);
const letters = "AWSEDFTGYHUJ";

/** Under the bands: the keyboard where a clip follows it, or what is selected, or how to begin. */
function Foot() {
  const view = useOrder((s) => s.view)!;
  const { follow, chosen } = useOrder();
  const clip = view.clips.find((c) => c.id === follow);
  if (clip)
    return (
      <div className={css.foot}>
        <span>
          Keys move <b>{clip.name}</b> along its scale from the next boundary:
        </span>
        <div className={css.piano} role="group" aria-label="Played root">
          {Array.from({ length: 12 }, (_, pitch) => (
            <button
              key={pitch}
              type="button"
              data-black={blacks.has(pitch)}
              title={letters[pitch]}
              aria-label={`${["C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"][pitch]}: ${clip.shifts[pitch]} degrees`}
              onClick={() => playRoot(pitch)}
            >
              <span aria-hidden>{letters[pitch]}</span>
            </button>
          ))}
        </div>
      </div>
    );
  if (chosen.length) return <Chosen />;
  return (
    <div className={css.foot}>
      <span className="quiet">
        {view.entries.length
          ? "A clip's key or name brings it in and takes it out while it plays; what you do is written here as you stop. Drag entries, pull their ends, draw new ones across a band. Drag over the bars to loop."
          : "Nothing is in the order yet. Press a clip's key: it comes in and plays, and what you bring in and out is written here as you stop. Or draw a stretch across a band."}
      </span>
    </div>
  );
}

/** The entries that are selected, in numbers. */
function Chosen() {
  const view = useOrder((s) => s.view)!;
  const { chosen, cursor, set } = useOrder();
  const entries = useApp((s) => s.piece?.order.entries ?? []);
  const first = entries[(chosen[0] ?? 0) - 1];
  const told = view.entries.find((e) => e.number === chosen[0]);
  const clip = view.clips.find((c) => c.id === first?.clip);
  if (!first || !clip) return null;
  const { edit } = useApp.getState();
  const patch = (value: object) => void edit([{ op: "order.set", entries: chosen, patch: value }]);
  const bar = view.barTicks;
  const number = (label: string, value: number, low: number, high: number, change: (v: number) => void) => (
    <label>
      {label}
      <NumberBox label={`${label} of the entry`} value={value} low={low} high={high} onChange={change} />
    </label>
  );
  return (
    <div className={css.foot}>
      <b>{chosen.length > 1 ? many(chosen.length, "entry").replace("entrys", "entries") : clip.name}</b>
      {number(
        "Bar",
        Math.floor(first.at / bar) + 1,
        1,
        65536,
        (v) => void edit([{ op: "order.move", entries: chosen, by: (v - 1) * bar - Math.floor(first.at / bar) * bar }]),
      )}
      {number("Bars", Math.round((first.for / bar) * 1000) / 1000, 0.01, 65536, (v) =>
        patch({ for: Math.max(Math.round(v * bar), 1) }),
      )}
      {number("Shift", first.shift, -14, 14, (v) => patch({ shift: v }))}
      <Choice
        label="At its end"
        value={first.run}
        all={["loop", "on"]}
        words={{ loop: "begins again", on: "runs on" }}
        onChange={(run) => patch({ run })}
      />
      <Choice
        label="Its luck"
        value={first.luck}
        all={["fresh", "same"]}
        words={{ fresh: "draws anew", same: "draws the same" }}
        onChange={(luck) => patch({ luck })}
      />
      <label>
        <input type="checkbox" checked={first.ring} onChange={(e) => patch({ ring: e.target.checked })} /> rings out
      </label>
      {chosen.length === 1 && (
        <span className={css.mutes} role="group" aria-label="Lanes that sound">
          {clip.lanes.map((l) => (
            <button
              key={l.id}
              type="button"
              aria-pressed={!first.mute.includes(l.id)}
              title={first.mute.includes(l.id) ? "Muted here" : "Sounds here"}
              onClick={() =>
                patch({
                  mute: first.mute.includes(l.id) ? first.mute.filter((m) => m !== l.id) : [...first.mute, l.id],
                })
              }
            >
              {l.name}
            </button>
          ))}
        </span>
      )}
      <button
        type="button"
        disabled={cursor <= first.at || cursor >= first.at + first.for}
        onClick={() => void edit([{ op: "order.split", entries: chosen, at: cursor }])}
      >
        Split at the cursor
      </button>
      <button type="button" onClick={() => void edit([{ op: "order.copy", entries: chosen, by: first.for }])}>
        Copy after it
      </button>
      <button
        type="button"
        onClick={() => {
          set({ chosen: [] });
          void edit([{ op: "order.remove", entries: chosen }]);
        }}
      >
        Remove
      </button>
      {told?.silent && <span role="status">{told.silent}</span>}
    </div>
  );
}
