import { many } from "../words";
import { memo, useLayoutEffect, useRef, useState } from "react";
import type { Lane } from "../api/gen/schema.gen";
import { ChoiceField, NumberField } from "../controls/Field";
import { laneFact, laneFacts } from "../api/facts";
import { Meter } from "../controls/Meter";
import { BY_HAND, inOrder } from "../audio/performance";
import { NumberBox } from "../controls/NumberBox";
import { ActionMenu } from "../controls/Popup";
import { TextBox } from "../controls/TextBox";
import { drawStrip } from "../canvas/drawing/strip";
import type { LaneProps } from "../lanes/kind";
import { kindOf, sounds } from "../lanes/kinds";
import { flip, setLane, setWindow } from "../state/actions";
import { clipOf, placesOf, stepsOf, useApp } from "../state/store";
import { dyes, token } from "../theme";
import { FillMenu } from "./FillMenu";
import { turnAgainst } from "../state/stems";
import { copyLane } from "../dialogs/starters/state";
import { lookOf, useSheet } from "../state/sheet";
import css from "./Sheet.module.css";
import { useLight } from "../light";

/** The voices in which a lane of the open clip sounds: in its loop, by hand, and in the running order. */
const voicesOf = (lane: string): string[] => [lane, `${lane}${BY_HAND}`, inOrder(useApp.getState().clip, lane)];

interface Props extends LaneProps {
  index: number;
  height: number;
}

/** A lane's header: its name and, when it is open, all that it sets. */
export const LaneHeader = memo(function LaneHeader({ lane, view, index, height }: Props) {
  const [renaming, setRenaming] = useState(false);
  const { open, held } = useSheet((s) => lookOf(s, lane.id));
  const active = useApp((s) => s.lane === lane.id);
  const { look, show } = useSheet.getState();
  const reading = useSheet((s) => s.reading);
  const kind = kindOf(lane);
  const goTo = () => {
    useApp.getState().goTo(lane.id);
    if (!open && !kind.live) show(lane.id);
  };
  const row = height < 48;
  return (
    <div
      className={css.head}
      data-active={active}
      style={{ height }}
      onPointerDown={(e) => e.target === e.currentTarget && goTo()}
    >
      <div className={css.name}>
        {!reading && (
          <button
            className={css.fold}
            aria-expanded={open}
            aria-label={`${open ? "Close" : "Open"} ${lane.name}`}
            title={open ? "Close" : "Open beside what is open"}
            onClick={() => {
              useApp.getState().goTo(lane.id);
              look(lane.id, { open: !open, held: !open });
            }}
          >
            {open ? (held ? "▾" : "▿") : "▸"}
          </button>
        )}
        {renaming ? (
          <TextBox
            autoFocus
            label={`Name of ${lane.name}`}
            value={lane.name}
            longest={laneFact.name.longest}
            style={{ width: "100%", minWidth: 0 }}
            onChange={(name) => setLane(lane.id, { name })}
            onLeave={() => setRenaming(false)}
          />
        ) : (
          <button
            className={css.title}
            onClick={goTo}
            onDoubleClick={() => setRenaming(!reading)}
            title={`${lane.name} – double click to rename`}
          >
            {lane.name}
          </button>
        )}
        <Toggle lane={lane} field="mute" letter="M" name="Mute" />
        <Toggle lane={lane} field="solo" letter="S" name="Solo" />
      </div>
      {sounds(lane) && (
        <Meter
          label={`Level of ${lane.name}`}
          of={({ lanes }) => Math.max(...voicesOf(lane.id).map((voice) => lanes[voice] ?? 0))}
        />
      )}
      {!row && (
        <div
          className={css.facts}
          title={
            view.round
              ? `A round of ${many(view.round, "step")} of ${lane.rate}, MIDI channel ${view.channel}`
              : `MIDI channel ${view.channel}`
          }
        >
          {view.period} · ch {view.channel}
        </div>
      )}
      {open && <Settings lane={lane} view={view} index={index} />}
    </div>
  );
});

function Toggle({ lane, field, letter, name }: { lane: Lane; field: "mute" | "solo"; letter: string; name: string }) {
  return (
    <button
      className={`${css.toggle} ${css.small}`}
      aria-pressed={lane[field]}
      aria-label={`${name} ${lane.name}`}
      title={name}
      onClick={() => flip(lane.id, field)}
    >
      {letter}
    </button>
  );
}

/** What a lane does not set whose steps do not play. */
const still = { steps: undefined, rate: undefined, direction: undefined, window: undefined, restart: undefined };

/** What an open lane sets: what all kinds share, and its kind's own. */
function Settings({ lane, view, index }: LaneProps & { index: number }) {
  const all = laneFacts(lane.kind);
  const fact = kindOf(lane).still(lane) ? { ...all, ...still } : all;
  const of = ` of ${lane.name}`;
  const id = (name: string) => `${name}-${lane.id}`;
  const count = placesOf(lane);
  const window = lane.window ?? { start: 1, count };
  const { Daily, Header } = kindOf(lane);
  const settings = useSheet((s) => s.settings);
  const set = (patch: Record<string, unknown>) => setLane(lane.id, patch);
  return (
    <>
      {fact.steps && <Strip lane={lane} view={view} index={index} />}
      <div className={css.fields}>
        {fact.steps && <label htmlFor={id("steps")}>Steps</label>}
        {fact.steps && (
          <NumberBox
            id={id("steps")}
            label={`Steps${of}`}
            value={count}
            low={fact.steps.low}
            high={fact.steps.high}
            onChange={(n) =>
              void useApp
                .getState()
                .edit([{ op: "lane.resize", clip: useApp.getState().clip, lane: lane.id, count: n }])
            }
          />
        )}
        {fact.rate && (
          <ChoiceField
            id={id("rate")}
            fact={fact.rate}
            label={`Rate${of}`}
            value={lane.rate}
            onChange={(rate) => set({ rate })}
          />
        )}
        <Daily lane={lane} view={view} />
      </div>
      <div className={css.toggles}>
        {fact.steps && <FillMenu lane={lane} view={view} className={css.toggle} />}
        {(kindOf(lane).sketches || (fact.steps && sounds(lane))) && (
          <button
            className={css.toggle}
            aria-label={`Sketch ${lane.name}`}
            aria-haspopup="dialog"
            title="Proposals by chance, to hear and to take"
            onClick={() => {
              useApp.getState().goTo(lane.id);
              useApp.getState().set({ panel: "sketch" });
            }}
          >
            Sketch
          </button>
        )}
        <LaneMenu lane={lane} />
        <button
          className={css.toggle}
          aria-expanded={settings}
          aria-label={`Settings of ${lane.name}`}
          title={settings ? "What is used daily" : "All that the lane sets"}
          onClick={() => useSheet.getState().setSettings(!settings)}
        >
          Settings
        </button>
      </div>
      {settings && (
        <div className={css.fields}>
          {fact.direction && (
            <ChoiceField
              id={id("way")}
              fact={fact.direction}
              label={`Direction${of}`}
              value={lane.direction}
              onChange={(direction) => set({ direction })}
            />
          )}
          {fact.window && <span title={fact.window.doc}>Window</span>}
          {fact.window && (
            <span className={css.pair}>
              <NumberBox
                label={`Window start${of}`}
                value={window.start}
                low={1}
                high={count}
                onChange={(start) => setWindow(lane.id, { start })}
              />
              <NumberBox
                label={`Window length${of}`}
                value={window.count}
                low={1}
                high={count - window.start + 1}
                onChange={(n) => setWindow(lane.id, { count: n })}
              />
            </span>
          )}
          {fact.restart && (
            <NumberField
              id={id("restart")}
              fact={fact.restart}
              label={`Restart${of}, in bars`}
              value={lane.restart}
              onChange={(restart) => set({ restart })}
            />
          )}
          {Header && <Header lane={lane} view={view} />}
          {fact.channel && (
            <NumberField
              id={id("channel")}
              fact={fact.channel}
              label={`Channel${of}, 0 for automatic`}
              value={lane.channel}
              onChange={(channel) => set({ channel })}
            />
          )}
        </div>
      )}
    </>
  );
}

/** The size of the strip: fixed, because asking the page for it costs a layout. */
const STRIP = { width: 152, height: 12 };

/** All steps of a lane in a row, with those left out of the round hatched. */
function Strip({ lane, view, index }: LaneProps & { index: number }) {
  const light = useLight();
  const canvas = useRef<HTMLCanvasElement>(null);
  const selection = useApp((s) => (s.lane === lane.id ? s.selection : null));
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = Math.round(STRIP.width * ratio);
    el.height = Math.round(STRIP.height * ratio);
    drawStrip(
      pen,
      stepsOf(lane),
      view.active,
      new Set(selection),
      token(dyes[index % dyes.length]!),
      STRIP.width,
      STRIP.height,
    );
  }, [lane, view, selection, index, light]);
  return (
    <canvas
      ref={canvas}
      className={css.strip}
      style={STRIP}
      title="All steps; hatched ones are skipped or outside the window"
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        const step = Math.floor(((e.clientX - box.left) / box.width) * placesOf(lane));
        useApp.getState().goTo(lane.id);
        useApp.getState().select([Math.min(step, placesOf(lane) - 1)]);
      }}
    />
  );
}

function LaneMenu({ lane }: { lane: Lane }) {
  const { edit, clip } = useApp.getState();
  const lanes = useApp((s) => clipOf(s)?.lanes) ?? [];
  const against = useSheet((s) => s.against);
  const at = lanes.findIndex((l) => l.id === lane.id) + 1;
  const on = { clip, lane: lane.id };
  const button = (
    <button className={css.toggle} aria-label={`More for ${lane.name}`}>
      More ▾
    </button>
  );
  return (
    <ActionMenu
      button={button}
      position="bottom-start"
      items={[
        ...(placesOf(lane) > 0
          ? [{ label: "Double the length with its content", run: () => void edit([{ op: "lane.double", ...on }]) }]
          : []),
        ...(sounds(lane)
          ? [
              {
                label: "Print it as free notes",
                run: () => {
                  useApp.getState().goTo(lane.id);
                  useApp.getState().set({ panel: "print" });
                },
              },
            ]
          : []),
        ...(sounds(lane)
          ? [
              {
                label: against === lane.id ? "No longer snap to its onsets" : "Snap to its onsets",
                run: () => turnAgainst(lane.id),
              },
            ]
          : []),
        { label: "Duplicate the lane", run: () => void edit([{ op: "lane.copy", ...on }]) },
        { label: "Copy it, for another clip or piece", run: () => void copyLane(lane.id, lane.name) },
        { label: "Move up", disabled: at <= 1, run: () => void edit([{ op: "lane.move", ...on, to: at - 1 }]) },
        {
          label: "Move down",
          disabled: at >= lanes.length,
          run: () => void edit([{ op: "lane.move", ...on, to: at + 1 }]),
        },
        { label: "" },
        { label: "Remove the lane", run: () => void edit([{ op: "lane.remove", ...on }]) },
      ]}
    />
  );
}
