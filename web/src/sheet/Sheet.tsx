import { many } from "../words";
import { Button } from "@mantine/core";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { Clip as ClipDoc } from "../api/gen/piece.gen";
import type { Finding } from "../api/gen/render.gen";
import type { Clip as ClipView } from "../api/gen/view.gen";
import { facts } from "../api/facts";
import { GUTTER } from "../canvas/drawing/ground";
import { useEnter } from "../input/state";
import { kindOf, laneKinds } from "../lanes/kinds";
import { copied, pasteLane } from "../dialogs/starters/state";
import { clipOf, laneViewOf, stepsOf, useApp } from "../state/store";
import { firstBars, heights } from "./layout";
import { Playhead } from "./Playhead";
import { leastOf, MendButton, Row } from "./Row";
import { Ruler } from "./Ruler";
import { headerOf, useSheet, zoomOf } from "../state/sheet";
import { later } from "../controls/later";
import css from "./Sheet.module.css";

const HarmonyChooser = later(() => import("./harmony/HarmonyChooser").then((m) => m.HarmonyChooser), 0);

/** The sheet: all lanes of a clip as bands on one time axis. */
export function Sheet() {
  const view = useApp((s) => s.view);
  const clip = useApp(clipOf);
  const trouble = useApp((s) => s.trouble);
  if (trouble) return <Trouble text={trouble} />;
  if (!view || !clip) return <NoClip />;
  return <OpenSheet view={view} clip={clip} />;
}

/** A clip that cannot be shown: the others can, and what led here can be undone. */
function Trouble({ text }: { text: string }) {
  const undo = useApp((s) => s.undo);
  return (
    <div className={css.sheet}>
      <div className={css.empty} role="alert">
        <h2>This clip cannot be shown</h2>
        <p>{text}. Nothing of it is lost: choose another clip, or undo what was done last.</p>
        <Button data-main disabled={!undo} onClick={() => void useApp.getState().walk("undo")}>
          Undo
        </Button>
      </div>
    </div>
  );
}

function NoClip() {
  return (
    <div className={css.sheet}>
      <div className={css.empty}>
        <h2>No clip yet</h2>
        <p>
          A clip is a loop of lanes: a bass line, a lead, a row of drums, each with its own number of steps. Begin with
          its key, and only the notes that fit will stand on the ladder.
        </p>
        <Button data-main onClick={() => useApp.getState().set({ panel: "clip" })}>
          Make the first clip
        </Button>
      </div>
    </div>
  );
}

function OpenSheet({ view, clip }: { view: ClipView; clip: ClipDoc }) {
  const frame = useRef<HTMLDivElement>(null);
  const lanesBox = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const { set, begin, show } = useSheet.getState();
  const zoom = useSheet(zoomOf);
  const header = useSheet(headerOf);
  const width = useSheet((s) => s.width);
  const bars = useSheet((s) => s.bars);
  const height = useSheet((s) => s.height);
  const looks = useSheet((s) => s.looks);
  const reading = useSheet((s) => s.reading);
  const looked = useSheet((s) => s.clip);
  const lane = useApp((s) => s.lane);
  const piece = useApp((s) => s.id);
  // The height of the rows of buttons under the lanes.
  const [adding, setAdding] = useState(0);

  useEffect(() => {
    const el = lanesBox.current;
    if (!el) return;
    const fit = () => set({ width: Math.max(el.clientWidth - header - 4 - GUTTER, 100), height: el.clientHeight });
    const watcher = new ResizeObserver(fit);
    watcher.observe(el);
    fit();
    return () => watcher.disconnect();
  }, [set, header]);

  // Variants are looked at alike: in the same lanes, at the same place.
  const id = `${piece} ${clip.of || clip.id}`;
  useEffect(() => begin(id), [begin, id]);
  const ready = looked === id;
  // A clip that was never looked at shows the lane that is worked on open; where
  // that does without, the first that does not.
  const never = ready && Object.keys(looks).length === 0;
  const opened = [...clip.lanes.filter((l) => l.id === lane), ...clip.lanes].find((l) => !kindOf(l).live)?.id;
  useEffect(() => {
    if (never && opened) show(opened);
  }, [never, opened, show]);
  // Where the lane that was open is gone, by undo, say, the one that was open before it is open again.
  const open = Object.keys(looks).filter((own) => looks[own]!.open);
  const left = ready && open.length > 0 && !clip.lanes.some((l) => open.includes(l.id));
  const earlier = useSheet((s) => s.earlier);
  const back = earlier.findLast((own) => clip.lanes.some((l) => l.id === own)) ?? opened;
  useEffect(() => {
    if (!left || !back) return;
    show(back);
    useApp.getState().goTo(back);
  }, [left, back, show]);

  // A clip that fits is shown whole; a longer one so that its steps can be hit.
  const all = view.reach / view.barTicks;
  const shortest = Math.min(...view.lanes.filter((l) => l.stepTicks > 0).map((l) => l.stepTicks), view.barTicks);
  const before = useRef(0); // how many bars it had
  useEffect(() => {
    if (!ready || !width) return;
    const grown = before.current > 0 && bars >= before.current && all > before.current; // it was seen whole
    before.current = all;
    if (!bars || grown)
      set({ bars: firstBars(all, view.barTicks, shortest, width, reading), barTicks: view.barTicks, scroll: 0 });
    else set({ bars: Math.min(bars, all), barTicks: view.barTicks });
  }, [ready, width, bars, all, view.barTicks, shortest, reading, set]);

  const untouched = clip.lanes.every((l) => stepsOf(l).every((step) => !step.on));
  const full = view.reach * zoom;
  useEffect(
    () =>
      useSheet.subscribe((now, before) => {
        if (now.follow && now.follow !== before.follow && !now.follow.note)
          bringIntoSight(now.follow, lanesBox.current, bar.current);
      }),
    [],
  );
  const zoomTo = (next: number) => set({ bars: Math.min(Math.max(next, (40 * 0.25) / 16), all) });
  const onWheel = (e: React.WheelEvent) => {
    if (e.ctrlKey || e.metaKey) zoomTo(bars / (e.deltaY < 0 ? 1.2 : 1 / 1.2));
    else if ((e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) && bar.current)
      bar.current.scrollLeft += e.deltaX || e.deltaY;
  };
  const sizes = useMemo(
    () =>
      heights(
        clip.lanes.map((l, i) => {
          const kind = kindOf(l);
          const look = reading ? undefined : looks[l.id];
          return {
            id: l.id,
            closed: kind.closed,
            least: leastOf(l, view.lanes[i]),
            most: kind.most,
            open: look?.open ?? false,
            dragged: look?.height ?? null,
          };
        }),
        height - adding - clip.lanes.length,
      ),
    [clip.lanes, view.lanes, looks, reading, height, adding],
  );

  const meets = view.whole
    ? view.realign
    : `${view.realign} – the first ${Math.round(all)} of ${view.bars} bars are shown and played; the file holds as many as you ask for`;
  return (
    <div
      className={css.sheet}
      ref={frame}
      data-sheet
      data-zooms
      style={{ "--head": `${header + 4}px` } as React.CSSProperties}
      role="application"
      aria-label={`Sheet of ${clip.name}. Arrows walk the steps; question mark lists all keys.`}
      tabIndex={0}
      onWheel={onWheel}
    >
      <div className={css.ruler}>
        <div className={css.corner}>
          <div>{many(clip.lanes.length, "lane")}</div>
          <div className={css.toggles}>
            <button
              className={`${css.toggle} ${css.small}`}
              aria-label="Show more time"
              onClick={() => zoomTo(bars * 1.5)}
            >
              –
            </button>
            <button
              className={`${css.toggle} ${css.small}`}
              aria-label="Show less time"
              onClick={() => zoomTo(bars / 1.5)}
            >
              +
            </button>
            <button className={css.toggle} onClick={() => zoomTo(all)}>
              all
            </button>
          </div>
        </div>
        <Ruler clip={view} />
      </div>
      <div className={css.meet} role="status" aria-label="When lanes meet">
        <span aria-hidden>◆</span>
        <span className={css.meets} title={meets}>
          {meets}
        </span>
        {!reading && (
          <>
            <Sooner findings={view.findings} />
            <HarmonyChooser clip={clip} />
          </>
        )}
      </div>
      <div className={css.lanes} ref={lanesBox}>
        {ready &&
          clip.lanes.map((doc, i) => {
            const shown = view.lanes[i];
            if (shown?.id !== doc.id) return null;
            const before = clip.lanes[i - 1];
            const joins = kindOf(doc).block && before?.kind === doc.kind;
            return (
              <Row
                key={doc.id}
                doc={doc}
                shown={shown}
                clip={view.id}
                barTicks={view.barTicks}
                beatTicks={view.beatTicks}
                harmony={view.harmony?.lane === doc.id && view.harmony.clip === view.id ? null : view.harmony}
                index={i}
                height={sizes.get(doc.id) ?? 0}
                joins={joins}
                silent={silenceOf(view, doc.id)}
                teaches={untouched && doc.id === lane}
              />
            );
          })}
        {!reading && <AddLanes clip={clip} tall={setAdding} />}
        <Playhead left={header + GUTTER + 4} />
      </div>
      <div
        className={css.bar}
        ref={bar}
        onScroll={(e) => set({ scroll: e.currentTarget.scrollLeft })}
        role="group"
        aria-label="Time"
        tabIndex={0}
        style={{ marginLeft: header + GUTTER + 4, visibility: full > width + 1 ? "visible" : "hidden" }}
      >
        <div style={{ width: full, height: 1 }} />
      </div>
      <div className="visually-hidden" aria-live="polite" data-testid="step-speech">
        <Speech />
      </div>
    </div>
  );
}

/** Scrolls, as far as it must, to the place that the keys have gone to. */
function bringIntoSight({ lane, place }: { lane: string; place: number }, lanes: Element | null, bar: Element | null) {
  lanes?.querySelector(`[data-row="${CSS.escape(lane)}"]`)?.scrollIntoView({ block: "nearest" });
  const view = laneViewOf(useApp.getState());
  const sheet = useSheet.getState();
  const zoom = zoomOf(sheet);
  if (!bar || !zoom || view?.id !== lane) return;
  const wide = view.stepTicks * zoom;
  const at = view.slotAt.flatMap((tick, k) => (view.slots[k] === place ? [tick * zoom] : []));
  const [from, to] = [sheet.scroll, sheet.scroll + sheet.width];
  if (!at.length || at.some((x) => x >= from && x + Math.min(wide, sheet.width) <= to)) return;
  const away = (x: number) => Math.min(Math.abs(x - from), Math.abs(x + wide - to));
  const nearest = at.reduce((best, x) => (away(x) < away(best) ? x : best));
  bar.scrollLeft = nearest < from ? nearest - wide : nearest + 2 * wide - sheet.width;
}

/** What would bring lanes together sooner that meet late. */
function Sooner({ findings }: { findings: ClipView["findings"] }) {
  const late = findings.find((f) => f.rule === "late");
  if (!late?.mend) return null;
  return (
    <span className={css.sooner}>
      {[late.mend, ...(late.more ?? [])].slice(0, 2).map((mend) => (
        <MendButton key={mend.label} mend={mend} title={late.message} />
      ))}
    </span>
  );
}

const silenceOf = (view: ClipView, lane: string): Finding | undefined =>
  view.findings.find((f) => f.silent && f.lane === lane);

const AddLanes = memo(function AddLanes({ clip, tall }: { clip: ClipDoc; tall: (height: number) => void }) {
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const el = row.current;
    if (!el) return;
    const watcher = new ResizeObserver(() => tall(el.offsetHeight));
    watcher.observe(el);
    return () => {
      watcher.disconnect();
      tall(0);
    };
  }, [tall]);
  const most = facts.clip.lanes.high;
  const full = clip.lanes.length >= most;
  const here = useApp((s) => s.laneCopied);
  const waiting = here || copied()?.name;
  return (
    <div className={css.add} ref={row}>
      {Object.entries(laneKinds).map(([name, kind]) => (
        <kind.Add key={name} disabled={full} />
      ))}
      <Button
        size="compact-sm"
        variant="default"
        disabled={full}
        onClick={() => useApp.getState().set({ panel: "starters" })}
      >
        From a starter
      </Button>
      {waiting && (
        <Button size="compact-sm" variant="subtle" color="dark" disabled={full} onClick={() => void pasteLane()}>
          Paste {waiting}
        </Button>
      )}
      {clip.lanes.length > 0 && (
        <Button size="compact-sm" variant="subtle" color="dark" onClick={() => useEnter.getState().set({ open: true })}>
          Keyboard
        </Button>
      )}
      {full && <span className="quiet">A clip holds at most {most} lanes.</span>}
      {clip.lanes.length === 0 && (
        <span className="quiet">A lane is one sequence of steps. Add one, then click notes into it.</span>
      )}
    </div>
  );
});

/** Says where the cursor is, for those who hear the page. */
function Speech() {
  const cursor = useApp((s) => s.cursor);
  const lane = useApp((s) => clipOf(s)?.lanes.find((l) => l.id === s.lane));
  const view = useApp((s) => s.view?.lanes.find((l) => l.id === s.lane));
  return lane && view ? kindOf(lane).speak(lane, view, cursor) : null;
}
