import { after } from "../../underway";
import { pressed } from "../../controls/pressed";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { api } from "../../api/client";
import type { Op } from "../../api/gen/schema.gen";
import type { Request, VaryRequest } from "../../api/gen/sketch.gen";
import type { Proposal, Sketching } from "../../api/gen/server.gen";
import type { Clip as ClipView } from "../../api/gen/view.gen";
import { playLoop } from "../../state/player";
import { Choice } from "../../controls/Choice";
import { NumberBox } from "../../controls/NumberBox";
import { freeNotes } from "../../api/free";
import { kindOf } from "../../lanes/kinds";
import { onNext, useNext } from "../../input/taught";
import { clipOf, laneOf, message, useApp } from "../../state/store";
import { keptOf } from "../../state/tried";
import { Dialog } from "../Dialog";
import { Caption, Drawing } from "./Card";
import { Dials, type Set } from "./Dials";
import css from "./sketch.module.css";

const respects = { pitches: "pitches", rhythm: "rhythm", dynamics: "dynamics", lengths: "lengths" };
type Respect = keyof typeof respects;

/** A row of proposals: what was asked for, and of what. */
interface Row {
  sketch?: Request;
  vary?: VaryRequest;
  /** The edits that lead to what is varied. */
  on: Op[];
}

const COUNT = 6;

const barsOf = (view: ClipView | null) => Math.max(Math.round((view?.ticks ?? 0) / (view?.barTicks ?? 1)), 1);

/** Proposals for the lane that is open: made by chance, heard over the loop, and taken or not. */
export function Sketches() {
  const { id, clip, lane: laneId } = useApp.getState();
  const lane = useApp((s) => laneOf(keptOf(s)));
  const view = useApp((s) => keptOf(s).view);
  const bars = useApp((s) => barsOf(keptOf(s).view));
  const index = useApp((s) => clipOf(keptOf(s))?.lanes.findIndex((l) => l.id === laneId) ?? -1);
  const free = useMemo(
    () => (lane && freeNotes(lane) ? { rate: "1/16", bars: Math.min(bars, 16) } : null),
    [lane, bars],
  );
  const [offered, setOffered] = useState<Sketching | null>(null);
  const [temper, setTemper] = useState("");
  const [set, setSet] = useState<Set>({});
  const [seed, setSeed] = useState(1);
  const [kept, setKept] = useState<{ keep: string; from: unknown[] } | null>(null);
  const sketches = !!lane && !!kindOf(lane).sketches;
  const [varied, setVaried] = useState<{ of: Op[]; share: number; respect: Respect } | null>(
    sketches ? null : { of: [], share: 25, respect: "rhythm" },
  );
  const [shown, setShown] = useState<Proposal[] | null>(null);
  const [row, setRow] = useState<Row>({ on: [] });
  const [heard, setHeard] = useState(-1);
  const [problem, setProblem] = useState("");
  const close = () => useApp.getState().set({ panel: null });
  useEffect(() => () => useApp.getState().leave(), []);
  const look = useCallback(
    () => api.tempers(id, clip, laneId, free).then(setOffered, (e: unknown) => setProblem(message(e))),
    [id, clip, laneId, free],
  );
  useEffect(() => void look(), [look]);
  const [name, setName] = useState("");
  /** What was forgotten last, so that it can be brought back. */
  const [forgotten, setForgotten] = useState<{ name: string; dials: unknown } | null>(null);
  const attempt = async (work: () => Promise<void>) => {
    try {
      await work();
      setProblem("");
      await look();
    } catch (e) {
      setProblem(message(e));
    }
  };

  const own = offered?.tempers.find((t) => t.own && t.name === temper);
  const asking = useMemo((): Row => {
    if (varied) return { vary: { seed, count: COUNT, share: varied.share, respect: varied.respect }, on: varied.of };
    const request = {
      seed,
      count: COUNT,
      ...(temper && !own ? { temper } : {}),
      dials: own ? { ...(own.dials as Set), ...set } : set,
      ...kept,
      ...free,
    } as Request;
    return { sketch: request, on: [] };
  }, [varied, seed, temper, own, set, kept, free]);
  const last = useRef<Row | null>(null);
  useEffect(() => {
    last.current = asking;
    return after(60, () => {
      api.proposals(id, clip, { lane: laneId, ...asking }).then(
        (next) => {
          if (last.current !== asking) return;
          setShown(next);
          setRow(asking);
          setProblem("");
          setHeard(-1);
          useApp.getState().leave();
        },
        (e: unknown) => last.current === asking && setProblem(message(e)),
      );
    });
  }, [id, clip, laneId, asking]);

  /** The edits that take one of what is shown. */
  const taking = useCallback(
    (k: number, more: { asClip?: boolean } = {}): Op[] => {
      const one = shown?.[k];
      if (!one) return [];
      const on = { clip, lane: laneId, seed: one.seed, ...more };
      if (row.vary) return [...row.on, { op: "lane.vary", ...on, request: row.vary }];
      return [{ op: "lane.sketch", ...on, request: row.sketch! }];
    },
    [shown, row, clip, laneId],
  );
  /** Tries one of what is shown in the lane's place. */
  const hear = useCallback(
    (k: number) => {
      const one = shown?.[k];
      if (!one) return;
      setHeard(k);
      void useApp
        .getState()
        .attempt(taking(k), `${one.seed} ${k}`)
        .then((why) => setProblem(why));
      void playLoop();
    },
    [shown, taking],
  );
  const take = async (k: number) => {
    const ops = taking(k);
    if (ops.length && (await useApp.getState().edit(ops))) close();
  };
  // What is on screen is what keys are for: neither waits for a later turn.
  const takes = useRef(take);
  useLayoutEffect(() => {
    takes.current = take;
  });
  const keep = async (k: number) => {
    if (await useApp.getState().edit(taking(k, { asClip: true })))
      useApp.getState().set({ remark: "It is kept as a variant of the clip." });
    if (k === heard) hear(k); // an edit ends what is tried
  };
  const { stands, teaching } = useNext();
  useEffect(() => onNext(() => shown?.length && hear((heard + 1) % shown.length)), [shown, hear, heard]);
  const teachNext = () =>
    void import("../../input/access").then((m) => m.askForPorts()).then(() => useNext.setState({ teaching: true }));
  const again = () => setSeed((s) => (s * 31 + 17) % 1_000_003);
  useLayoutEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.defaultPrevented || e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return;
      const own = pressed(e);
      if (own.ctrlKey || own.altKey || own.metaKey) return;
      const k = Number(own.key) - 1;
      if (k >= 0 && k < (shown?.length ?? 0)) hear(k);
      else if (own.key === "n") again();
      else if (e.key === "Enter" && !(e.target instanceof HTMLButtonElement)) void takes.current(Math.max(heard, 0));
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [shown, hear, heard]);
  if (!lane || !view || index < 0) return null;
  const stepped = !free;
  const base = (offered?.tempers.find((t) => t.name === temper)?.dials ?? {}) as Set;
  const what = stepped ? "step" : "note";
  return (
    <Dialog
      title={varied ? `Variations of ${lane.name}` : `Sketches for ${lane.name}`}
      size={1180}
      onClose={close}
      main={() => take(Math.max(heard, 0))}
      label={heard >= 0 ? `Take number ${heard + 1}` : "Take the first"}
      ready={!!shown?.length}
    >
      <div className={css.layout} data-only={!sketches}>
        <div className={css.side} hidden={!sketches}>
          {offered && (
            <>
              <div className={css.tempers} role="group" aria-label="Tempers">
                {offered.tempers.map((t) => (
                  <button
                    key={t.name}
                    type="button"
                    className={css.temper}
                    aria-pressed={t.name === temper}
                    title={t.about}
                    onClick={() => {
                      setVaried(null);
                      setTemper(t.name === temper ? "" : t.name);
                      setSet({});
                    }}
                  >
                    {t.name}
                    <Small offer={t} />
                  </button>
                ))}
              </div>
              <Dials
                offered={offered}
                set={{ ...base, ...set }}
                onChange={(next) => {
                  setVaried(null);
                  setSet(
                    Object.fromEntries(
                      Object.entries(next).filter(([k, v]) => JSON.stringify(base[k]) !== JSON.stringify(v)),
                    ),
                  );
                }}
              />
              <div className={css.keep}>
                <input
                  aria-label="Name of these dials"
                  placeholder="a name for these dials"
                  value={name}
                  maxLength={80}
                  onChange={(e) => setName(e.target.value)}
                  onKeyDown={(e) => {
                    if (e.key !== "Enter") return;
                    e.preventDefault();
                    e.stopPropagation();
                  }}
                />
                <button
                  type="button"
                  disabled={!name.trim()}
                  onClick={() =>
                    void attempt(async () => {
                      await api.saveTemper(name, { ...base, ...set });
                      setTemper(name.trim());
                      setSet({});
                      setName("");
                    })
                  }
                >
                  Keep
                </button>
                {own && (
                  <button
                    type="button"
                    onClick={() =>
                      void attempt(async () => {
                        await api.removeTemper(own.name);
                        setTemper("");
                        setForgotten({ name: own.name, dials: own.dials });
                      })
                    }
                  >
                    Forget {own.name}
                  </button>
                )}
                {forgotten && (
                  <button
                    type="button"
                    onClick={() =>
                      void attempt(async () => {
                        await api.saveTemper(forgotten.name, forgotten.dials);
                        setTemper(forgotten.name);
                        setForgotten(null);
                      })
                    }
                  >
                    Bring {forgotten.name} back
                  </button>
                )}
              </div>
            </>
          )}
        </div>
        <div>
          <div className={css.bar}>
            <button type="button" onClick={again} title="N">
              Others
            </button>
            {stepped && sketches && (
              <>
                <span>keeping</span>
                <button type="button" aria-pressed={!kept} onClick={() => setKept(null)}>
                  nothing
                </button>
                {["rhythm", "pitches"].map((part) => (
                  <button
                    key={part}
                    type="button"
                    aria-pressed={kept?.keep === part}
                    title={`Of the one that is heard, or else of what stands in ${lane.name}`}
                    onClick={() => {
                      setVaried(null);
                      setKept({ keep: part, from: (shown?.[heard]?.steps ?? []).map(written) });
                    }}
                  >
                    its {part}
                  </button>
                ))}
              </>
            )}
            {stepped && (
              <>
                <span>{sketches ? "or vary" : "vary"}</span>
                <NumberBox
                  label="Share to vary, in %"
                  value={varied?.share ?? 25}
                  low={1}
                  high={100}
                  onChange={(share) => varied && setVaried({ ...varied, share })}
                />
                <span>% of the</span>
                <Choice
                  label="What to vary"
                  value={varied?.respect ?? "pitches"}
                  all={Object.keys(respects).filter((r) => sketches || r !== "pitches")}
                  onChange={(respect) =>
                    setVaried({
                      of: varied?.of ?? taking(heard),
                      share: varied?.share ?? 25,
                      respect: respect as Respect,
                    })
                  }
                />
                <button
                  type="button"
                  aria-pressed={!!varied}
                  title={`Of the one that is heard, or else of what stands in ${lane.name}`}
                  onClick={() =>
                    setVaried({ of: taking(heard), share: varied?.share ?? 25, respect: varied?.respect ?? "pitches" })
                  }
                >
                  Vary
                </button>
              </>
            )}
            <button
              type="button"
              className={css.teach}
              aria-pressed={teaching}
              title={
                stands
                  ? `${stands} of a MIDI device lets the next one be heard`
                  : "The next key or pad of a MIDI device lets the next one be heard"
              }
              onClick={teachNext}
            >
              {teaching ? "Press it now" : stands ? `Next: ${stands}` : "Teach the next"}
            </button>
          </div>
          {problem && (
            <p role="alert" className={css.problem}>
              {problem}
            </p>
          )}
          <div className={css.cards}>
            {shown?.map((one, k) => (
              <section
                key={`${one.seed} ${k}`}
                className={css.card}
                data-heard={k === heard}
                aria-label={`Number ${k + 1}`}
              >
                <button type="button" className={css.face} onClick={() => hear(k)}>
                  <span className="visually-hidden">Hear number {k + 1}: </span>
                  <Drawing lane={lane} view={view} index={index} proposal={one} />
                  <Caption dials={one.dials} differs={one.differs} what={what} />
                </button>
                <div className={css.acts}>
                  <span className={css.quiet} title={one.shortened || undefined}>
                    {k + 1}
                    {one.shortened && ` · ${one.shortened}`}
                  </span>
                  <button
                    type="button"
                    className={css.take}
                    onClick={() => void take(k)}
                    aria-label={`Take number ${k + 1}`}
                  >
                    Take
                  </button>
                  <button type="button" onClick={() => void keep(k)} aria-label={`Keep as a variant: number ${k + 1}`}>
                    Keep as a variant
                  </button>
                </div>
              </section>
            ))}
          </div>
        </div>
      </div>
    </Dialog>
  );
}

/** A step as requests take it: without what is absent. */
const written = (step: object): unknown =>
  Object.fromEntries(
    Object.entries(step).filter(([, v]) => v !== null && v !== undefined && !(Array.isArray(v) && v.length === 0)),
  );

/** What a temper gives, small. */
function Small({ offer }: { offer: Sketching["tempers"][number] }) {
  const pitches = offer.notes.map((n) => n.pitch);
  const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
  return (
    <svg viewBox="0 0 120 22" width="120" height="22" aria-hidden>
      {offer.notes.map((n, i) => (
        <rect
          key={i}
          x={(n.at / Math.max(offer.ticks, 1)) * 120}
          y={18 - ((n.pitch - low) / Math.max(high - low, 1)) * 16}
          width={Math.max((n.length / Math.max(offer.ticks, 1)) * 120 - 0.4, 1)}
          height="2"
          fill="currentColor"
        />
      ))}
    </svg>
  );
}
