import { pressed } from "../../controls/pressed";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import type { Op } from "../../api/gen/schema.gen";
import type { Version } from "../../api/gen/server.gen";
import { playLoop } from "../../state/player";
import { listenBlind, newVariant, openVariant, stackOf } from "../../state/variants";
import { Choice } from "../../controls/Choice";
import { moved } from "../../controls/roving";
import { NumberBox } from "../../controls/NumberBox";
import { many } from "../../words";
import { clipOf, message, useApp } from "../../state/store";
import { dyes, token } from "../../theme";
import { Dialog } from "../Dialog";
import css from "./versions.module.css";
import { useLight } from "../../light";

/** The variants of a clip one beneath another: heard at the same place in the loop, what differs from the
 * first marked and said, and taken across. */
export function Versions() {
  const { id } = useApp.getState();
  const clip = useApp((s) => s.clip);
  const version = useApp((s) => s.version);
  const blind = useApp((s) => s.blind);
  const atBar = useApp((s) => s.atBar);
  const [all, setAll] = useState<Version[] | null>(null);
  const [bar, setBar] = useState(1);
  const [chosen, setBase] = useState("");
  const base = useApp((s) => (stackOf(s).some((c) => c.id === chosen) ? chosen : ""));
  const [problem, setProblem] = useState("");
  /** The version that was open before others were heard: Esc goes back to it. */
  const [begun, setBegun] = useState(clip);
  const close = () => useApp.getState().set({ panel: null, blind: null });
  const leave = () => {
    const { clip: heard, piece, openClip } = useApp.getState();
    close();
    if (heard !== begun && piece?.clips.some((c) => c.id === begun)) void openClip(begun);
  };
  useEffect(() => {
    let gone = false;
    api.versions(id, clip, base).then(
      (next) => gone || (setAll(next), setProblem("")),
      (e: unknown) => gone || setProblem(message(e)),
    );
    return () => {
      gone = true;
    };
  }, [id, clip, version, base]);
  const open = async (place: number) => {
    await openVariant(place);
    void playLoop();
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return;
      if (e.ctrlKey || e.altKey || e.metaKey) return;
      const { clip: heard, blind: drawn } = useApp.getState();
      const stack = drawn?.order ?? stackOf(useApp.getState()).map((c) => c.id);
      const to = moved(e.key, stack.indexOf(heard), stack.length);
      const place = to === null ? Number(pressed(e).key) : to + 1;
      if (!(place >= 1 && place <= 9)) return;
      e.preventDefault();
      void open(place);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  const head = all?.[0];
  const first = all?.find((v) => v.id === base) ?? head;
  const bars = Math.max(...(all ?? []).map((v) => v.bars), 1);
  const from = Math.min(bar, Math.max(bars - IN_SIGHT + 1, 1));
  const hidden = blind !== null && !blind.told;
  return (
    <Dialog
      title={hidden ? "Listening blind" : `Variants of ${head?.name ?? ""}`}
      size={1100}
      onClose={leave}
      main={close}
      label={hidden ? "Stay with what is heard" : `Stay with ${all?.find((v) => v.id === clip)?.name ?? "it"}`}
    >
      {problem && <p role="alert">{problem}</p>}
      <div className={css.bar}>
        <label htmlFor="versions-when">Another one begins</label>
        <Choice
          id="versions-when"
          label="When another one begins"
          value={atBar ? "bar" : "now"}
          all={["bar", "now"]}
          words={{ bar: "at the next bar", now: "at once" }}
          onChange={(when) => useApp.getState().set({ atBar: when === "bar" })}
        />
        {!hidden && all && first && all.length > 1 && (
          <>
            <label htmlFor="versions-base">Compared with</label>
            <Choice
              id="versions-base"
              label="Compared with"
              value={first.id}
              all={all.map((v) => v.id)}
              words={Object.fromEntries(all.map((v) => [v.id, v.name]))}
              onChange={setBase}
            />
          </>
        )}
        {(all?.length ?? 0) > 1 &&
          (blind ? (
            <button
              type="button"
              onClick={() => useApp.getState().set({ blind: blind.told ? null : { ...blind, told: true } })}
            >
              {blind.told ? "Done" : "Tell which is which"}
            </button>
          ) : (
            <button type="button" onClick={listenBlind}>
              Listen blind
            </button>
          ))}
        {!hidden && (
          <button type="button" onClick={() => void newVariant().then(() => setBegun(useApp.getState().clip))}>
            New variant
          </button>
        )}
      </div>
      {blind && (
        <div className={css.blind} role="group" aria-label="Heard blind">
          {blind.order.map((own, k) => (
            <button
              key={own}
              type="button"
              aria-pressed={clip === own}
              title="Hear it"
              onClick={() => void open(k + 1)}
            >
              {"ABCDEFGHI"[k] ?? k + 1}
              {blind.told && ` is ${all?.find((v) => v.id === own)?.name ?? own}`}
            </button>
          ))}
        </div>
      )}
      {!hidden && all && first && (
        <div className={css.rows}>
          {all.length === 1 && <p>There is one version yet. Make a variant, change it, and hear both here.</p>}
          {bars > IN_SIGHT && (
            <label className={css.sight}>
              bars {from}–{from + IN_SIGHT - 1} of {bars}
              <input
                type="range"
                min={1}
                max={bars - IN_SIGHT + 1}
                value={from}
                onChange={(e) => setBar(Number(e.target.value))}
              />
            </label>
          )}
          {all.map((v, k) => (
            <Row
              key={v.id}
              version={v}
              first={first}
              place={k + 1}
              from={from}
              sight={Math.min(bars, IN_SIGHT)}
              heard={clip === v.id}
              hear={open}
            />
          ))}
        </div>
      )}
      {!hidden && all && all.length > 1 && (
        <p className={css.key}>
          <span>▲ added</span>
          <span>▽ gone</span>
          <span>◆ moved</span>
          <span>↔ longer or shorter</span>
          <span>● louder or softer</span>
        </p>
      )}
    </Dialog>
  );
}

/** So many bars are in sight at once, that signs stay apart. */
const IN_SIGHT = 8;

interface RowProps {
  version: Version;
  first: Version;
  place: number;
  /** The first bar in sight, from 1, and how many are. */
  from: number;
  sight: number;
  heard: boolean;
  hear: (place: number) => Promise<void>;
}

/** One version: its result, what differs from the first in notes and in words, and taking it across. */
function Row({ version, first, place, from, sight, heard, hear }: RowProps) {
  const [bar, setBar] = useState(1);
  const [lane, setLane] = useState("");
  const take = (more: Partial<Extract<Op, { op: "clip.take" }>>) =>
    void useApp.getState().edit([{ op: "clip.take", clip: first.id, from: version.id, ...more }]);
  const count = version.notes.length;
  const bars = Math.max(version.bars, first.bars);
  return (
    <section className={css.row} data-heard={heard} aria-label={version.name}>
      <div className={css.head}>
        <button
          type="button"
          aria-pressed={heard}
          onClick={() => void hear(place)}
          aria-label={`${place}: hear ${version.name}`}
        >
          {place}
        </button>
        <b>{version.name}</b>
        <span className="quiet">
          {many(version.bars, "bar")}
          {version !== first && ` · ${count ? `${many(count, "note")} differ` : "sounds the same"}`}
        </span>
      </div>
      <Result version={version} from={(from - 1) * version.barTicks} ticks={sight * version.barTicks} />
      {version.shortened && <p className="quiet">{version.shortened}</p>}
      {version !== first && (
        <ul className={css.words} aria-label={`What differs in ${version.name}`}>
          {version.words.map((w) => (
            <li key={w.lane + w.text}>
              {w.text}
              <button
                type="button"
                aria-label={`Take into ${first.name}: ${w.text}`}
                onClick={() => take({ ...(w.lane ? { lane: w.lane } : {}), ...(w.path ? { path: w.path } : {}) })}
              >
                Take
              </button>
            </li>
          ))}
          <li>
            bar
            <NumberBox label={`Bar of ${version.name}`} value={bar} low={1} high={bars} onChange={setBar} />
            of
            <Choice
              label={`Lane of ${version.name}`}
              value={lane}
              all={["", ...version.lanes.map((l) => l.id)]}
              words={{ "": "all lanes", ...Object.fromEntries(version.lanes.map((l) => [l.id, l.name])) }}
              onChange={setLane}
            />
            <button
              type="button"
              aria-label={`Take the bar of ${version.name} into ${first.name}`}
              onClick={() => take({ bars: [bar], ...(lane ? { lane } : {}) })}
            >
              Take
            </button>
            <button
              type="button"
              title={`Bar ${bar} and all after it come from ${version.name}, and those before it stay`}
              onClick={() =>
                take({ bars: Array.from({ length: bars - bar + 1 }, (_, i) => bar + i), ...(lane ? { lane } : {}) })
              }
            >
              Take it and all after it
            </button>
          </li>
        </ul>
      )}
    </section>
  );
}

const SIZE = { width: 1040, height: 68 };
const signs: Record<string, string> = { added: "▲", gone: "▽", moved: "◆", length: "↔", velocity: "●" };

/** What a version sounds, with signs where it is not as the first. */
function Result({ version, from: start, ticks }: { version: Version; from: number; ticks: number }) {
  const light = useLight();
  const canvas = useRef<HTMLCanvasElement>(null);
  const lanes = useApp((s) => clipOf(s)?.lanes.length ?? 0);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = SIZE.width * ratio;
    el.height = SIZE.height * ratio;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, SIZE.width, SIZE.height);
    const wide = (span: number) => (span / Math.max(ticks, 1)) * SIZE.width;
    const x = (tick: number) => wide(tick - start);
    const end = start + ticks;
    pen.fillStyle = token("rule");
    for (let at = start; at <= end; at += Math.max(version.barTicks, 1)) pen.fillRect(x(at), 0, 1, SIZE.height - 14);
    const pitches = version.lanes.flatMap((l) => l.notes.map((n) => n.pitch));
    const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
    const y = (pitch: number) => SIZE.height - 22 - ((pitch - low) / Math.max(high - low, 1)) * (SIZE.height - 34);
    for (const lane of version.lanes) {
      if (!lane.audible) continue;
      pen.fillStyle = token(dyes[lane.index % dyes.length]!);
      for (let round = 0; round < end; round += Math.max(version.ticks, 1))
        for (const n of lane.notes)
          pen.fillRect(x(round + n.at), y(n.pitch) - 1.5, Math.max(wide(n.length) - 0.5, 1.5), 3);
    }
    pen.fillStyle = token("ink");
    pen.font = "10px sans-serif";
    pen.textAlign = "center";
    for (const n of version.notes) pen.fillText(signs[n.change] ?? "", x(n.at) + 3, SIZE.height - 3);
  }, [version, start, ticks, lanes, light]);
  return <canvas ref={canvas} style={{ ...SIZE, maxWidth: "100%" }} aria-hidden />;
}
