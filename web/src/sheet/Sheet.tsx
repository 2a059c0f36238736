import { Button } from "@mantine/core";
import { useEffect, useRef } from "react";
import type { Clip as ClipDoc } from "../api/gen/piece.gen";
import type { Clip as ClipView } from "../api/gen/view.gen";
import { addLane } from "../state/actions";
import { clipOf, useApp } from "../state/store";
import { dye } from "../theme";
import { onKey } from "../app/keys";
import { CLOSED_HEIGHT } from "./geometry";
import { LaneBand } from "./LaneBand";
import { LaneHeader } from "./LaneHeader";
import { Playhead } from "./Playhead";
import { Ruler } from "./Ruler";
import { GUTTER, HEADER, useSheet } from "./sheetState";
import css from "./Sheet.module.css";

/** How many bars fit at first: enough to see a loop, few enough to hit a step. */
const FIRST_BARS = 2;

/** The sheet: all lanes of a clip as bands on one time axis. */
export function Sheet() {
  const view = useApp((s) => s.view);
  const clip = useApp(clipOf);
  if (!view || !clip) return <NoClip />;
  return <OpenSheet view={view} clip={clip} />;
}

function NoClip() {
  return (
    <div className={css.sheet}>
      <div className={css.empty}>
        <h2>No clip yet</h2>
        <p>A clip is a loop of lanes: a bass line, a lead, each with its own number of steps. Begin with its key, and only the notes that fit will stand on the ladder.</p>
        <Button onClick={() => useApp.getState().set({ panel: "clip" })}>Make the first clip</Button>
      </div>
    </div>
  );
}

function OpenSheet({ view, clip }: { view: ClipView; clip: ClipDoc }) {
  const frame = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const zoom = useSheet((s) => s.zoom);
  const width = useSheet((s) => s.width);
  const set = useSheet((s) => s.set);
  const lane = useApp((s) => s.lane);

  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const fit = () => {
      const height = el.querySelector(`.${css.lanes}`)?.clientHeight ?? 0;
      set({ width: Math.max(el.clientWidth - HEADER - 4 - GUTTER - 12, 100), room: height - (clip.lanes.length - 1) * (CLOSED_HEIGHT + 1) - 46 });
    };
    const watcher = new ResizeObserver(fit);
    watcher.observe(el);
    fit();
    return () => watcher.disconnect();
  }, [set, clip.lanes.length]);
  // A clip is opened at a size at which its steps can be hit.
  useEffect(() => {
    if (!width) return;
    const bars = Math.min(view.ticks / view.barTicks, FIRST_BARS);
    set({ zoom: width / (bars * view.barTicks), scroll: 0 });
    if (bar.current) bar.current.scrollLeft = 0;
  }, [view.id, width === 0, view.barTicks, set]);

  const full = view.ticks * zoom;
  const zoomTo = (next: number) => {
    const least = width / view.ticks;
    set({ zoom: Math.min(Math.max(next, Math.min(least, zoom)), 0.6) });
  };
  const onWheel = (e: React.WheelEvent) => {
    if (e.ctrlKey) zoomTo(zoom * (e.deltaY < 0 ? 1.2 : 1 / 1.2));
    else if ((e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) && bar.current) bar.current.scrollLeft += e.deltaX || e.deltaY;
  };
  const current = clip.lanes.find((l) => l.id === lane);

  return (
    <div className={css.sheet} ref={frame} role="application" aria-label={`Sheet of ${clip.name}. Arrows walk the steps; question mark lists all keys.`} tabIndex={0} onKeyDown={onKey} onWheel={onWheel}>
      <div className={css.ruler}>
        <div className={css.corner}>
          <div>{clip.lanes.length} {clip.lanes.length === 1 ? "lane" : "lanes"}</div>
          <div className={css.toggles}>
            <button className={`${css.toggle} ${css.small}`} aria-label="Show more time" onClick={() => zoomTo(zoom / 1.5)}>–</button>
            <button className={`${css.toggle} ${css.small}`} aria-label="Show less time" onClick={() => zoomTo(zoom * 1.5)}>+</button>
            <button className={css.toggle} onClick={() => zoomTo(width / view.ticks)}>all</button>
          </div>
        </div>
        <Ruler clip={view} />
      </div>
      <div className={css.meet} role="status" aria-label="When lanes meet">
        <span aria-hidden>◆</span>
        <span>{view.realign}{view.whole ? "" : ` – the first ${Math.round(view.ticks / view.barTicks)} of ${view.bars} bars are shown and played; the file holds as many as you ask for`}</span>
      </div>
      <div className={css.lanes}>
        {clip.lanes.map((doc, i) => {
          const shown = view.lanes[i];
          return shown && shown.id === doc.id ? (
            <div key={doc.id} className={css.lane} data-open={doc.id === lane} style={{ "--hue": dye(i) } as React.CSSProperties}>
              <LaneHeader lane={doc} view={shown} index={i} open={doc.id === lane} />
              <div className={css.band}>
                <LaneBand lane={doc} view={shown} clip={view.id} ticks={view.ticks} barTicks={view.barTicks} beatTicks={view.beatTicks} index={i} open={doc.id === lane} />
                {doc.id === lane && <Reach lane={doc.id} />}
                <Silent lane={doc.id} findings={view.findings} />
              </div>
            </div>
          ) : null;
        })}
        <AddLane clip={clip} />
        <Playhead left={HEADER + GUTTER + 4} />
      </div>
      <div className={css.bar} ref={bar} onScroll={(e) => set({ scroll: e.currentTarget.scrollLeft })} aria-label="Time" style={{ visibility: full > width + 1 ? "visible" : "hidden" }}>
        <div style={{ width: full, height: 1 }} />
      </div>
      <div className="visually-hidden" aria-live="polite" data-testid="step-speech"><StepSpeech lane={current?.name ?? ""} /></div>
    </div>
  );
}

function Reach({ lane }: { lane: string }) {
  const extend = useSheet((s) => s.extend);
  return (
    <>
      <button className={css.more} style={{ top: 2 }} aria-label="Show higher notes" title="Show higher notes" onClick={() => extend(lane, 0, 4)}>▲</button>
      <button className={css.more} style={{ bottom: 118 }} aria-label="Show lower notes" title="Show lower notes" onClick={() => extend(lane, 4, 0)}>▼</button>
    </>
  );
}

function Silent({ lane, findings }: { lane: string; findings: ClipView["findings"] }) {
  const finding = findings.find((f) => f.rule === "silent" && f.lane === lane);
  return finding ? <div className={css.silent}>{finding.message}</div> : null;
}

function AddLane({ clip }: { clip: ClipDoc }) {
  const words = useApp((s) => s.words);
  const most = words?.maxLanes ?? 32;
  return (
    <div className={css.add}>
      <Button size="compact-sm" variant="default" onClick={() => void addLane()} disabled={clip.lanes.length >= most}>Add a lane</Button>
      {clip.lanes.length >= most && <span className="quiet">A clip holds at most {most} lanes.</span>}
      {clip.lanes.length === 0 && <span className="quiet">A lane is one line of steps. Add one, then click notes onto its ladder.</span>}
    </div>
  );
}

/** Says where the cursor is, for those who hear the page. */
function StepSpeech({ lane }: { lane: string }) {
  const cursor = useApp((s) => s.cursor);
  const step = useApp((s) => clipOf(s)?.lanes.find((l) => l.id === s.lane)?.steps[s.cursor]);
  const name = useApp((s) => s.view?.lanes.find((l) => l.id === s.lane)?.names[s.cursor]);
  if (!step) return null;
  return <>{`${lane} step ${cursor + 1}: ${step.on ? `${name}, velocity ${step.velocity}, gate ${step.gate} percent` : "rest"}${step.tie ? ", tied" : ""}${step.glide ? ", glide" : ""}`}</>;
}
