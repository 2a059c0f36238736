import { Menu } from "@mantine/core";
import { memo, useLayoutEffect, useRef, useState } from "react";
import type { Lane as LaneDoc } from "../api/gen/piece.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { NumberBox } from "../app/NumberBox";
import { setLane } from "../state/actions";
import { laneIn, useApp } from "../state/store";
import { dyes, token } from "../theme";
import { drawStrip } from "./draw";
import { FillMenu } from "./FillMenu";
import css from "./Sheet.module.css";

interface Props {
  lane: LaneDoc;
  view: LaneView;
  index: number;
  open: boolean;
}

/** A lane's header: its name and, when it is open, all that it sets. */
export const LaneHeader = memo(function LaneHeader({ lane, view, index, open }: Props) {
  const [renaming, setRenaming] = useState(false);
  const words = useApp((s) => s.words);
  const app = useApp.getState;
  const openIt = () => app().openLane(lane.id);
  const of = ` of ${lane.name}`;
  return (
    <div className={css.head} onPointerDown={openIt}>
      <div className={css.name}>
        {renaming ? (
          <input
            autoFocus
            aria-label={`Name${of}`}
            defaultValue={lane.name}
            style={{ width: "100%" }}
            onBlur={(e) => {
              setRenaming(false);
              if (e.target.value && e.target.value !== lane.name) setLane(lane.id, { name: e.target.value });
            }}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === "Enter") e.currentTarget.blur();
              if (e.key === "Escape") setRenaming(false);
            }}
          />
        ) : (
          <button className={css.title} aria-expanded={open} onClick={openIt} onDoubleClick={() => setRenaming(true)} title={`${lane.name} – double click to rename`}>{lane.name}</button>
        )}
        <button className={`${css.toggle} ${css.small}`} aria-pressed={lane.mute} aria-label={`Mute ${lane.name}`} title="Mute" onClick={() => setLane(lane.id, { mute: !lane.mute })}>M</button>
        <button className={`${css.toggle} ${css.small}`} aria-pressed={lane.solo} aria-label={`Solo ${lane.name}`} title="Solo" onClick={() => setLane(lane.id, { solo: !lane.solo })}>S</button>
      </div>
      <div className={css.facts} title={`A round of ${view.round} steps of ${lane.rate}, MIDI channel ${view.channel}`}>{view.period} · ch {view.channel}</div>
      {open && words && (
        <>
          <Strip lane={lane} view={view} index={index} />
          <div className={css.fields}>
            <label htmlFor={`steps-${lane.id}`}>Steps</label>
            <NumberBox id={`steps-${lane.id}`} label={`Steps${of}`} value={lane.steps.length} low={1} high={words.maxSteps} onChange={(n) => void app().edit([{ op: "lane.resize", clip: app().clip, lane: lane.id, by: n }])} />
            <label htmlFor={`rate-${lane.id}`}>Rate</label>
            <Choice id={`rate-${lane.id}`} label={`Rate${of}`} value={lane.rate} all={words.rates} onChange={(rate) => setLane(lane.id, { rate })} />
            <label htmlFor={`way-${lane.id}`}>Way</label>
            <Choice id={`way-${lane.id}`} label={`Direction${of}`} value={lane.direction} all={words.directions} onChange={(direction) => setLane(lane.id, { direction })} />
            <span>Window</span>
            <span className={css.pair}>
              <NumberBox label={`Window start${of}`} value={lane.window?.start ?? 1} low={1} high={lane.steps.length} onChange={(start) => setWindow(lane.id, { start })} />
              <NumberBox label={`Window length${of}`} value={lane.window?.count ?? lane.steps.length} low={1} high={lane.steps.length - (lane.window?.start ?? 1) + 1} onChange={(count) => setWindow(lane.id, { count })} />
            </span>
            <label htmlFor={`oct-${lane.id}`}>Octave</label>
            <NumberBox id={`oct-${lane.id}`} label={`Octave${of}`} value={lane.octave} low={-1} high={9} onChange={(octave) => setLane(lane.id, { octave })} />
            <label htmlFor={`lock-${lane.id}`}>Lock</label>
            <Choice id={`lock-${lane.id}`} label={`Lock${of}`} value={lane.lock} all={words.locks} onChange={(lock) => setLane(lane.id, { lock })} />
            <label htmlFor={`snap-${lane.id}`}>Snap</label>
            <Choice id={`snap-${lane.id}`} label={`Snap${of}`} value={lane.snap} all={words.snaps} onChange={(snap) => setLane(lane.id, { snap })} />
            <label htmlFor={`channel-${lane.id}`} title="MIDI channel; 0 gives one out by position">Channel</label>
            <NumberBox id={`channel-${lane.id}`} label={`Channel${of}, 0 for automatic`} value={lane.channel} low={0} high={16} onChange={(channel) => setLane(lane.id, { channel })} />
          </div>
          <div className={css.toggles}>
            <FillMenu lane={lane} />
            <LaneMenu lane={lane} />
          </div>
        </>
      )}
    </div>
  );
});

/** Changes one end of a lane's window and keeps the other as far as it fits. */
function setWindow(id: string, part: { start?: number; count?: number }): void {
  const { clip, edit } = useApp.getState();
  void edit((now) => {
    const lane = laneIn(now, clip, id);
    if (!lane) return [];
    const all = lane.steps.length;
    const start = part.start ?? lane.window?.start ?? 1;
    const count = Math.min(part.count ?? lane.window?.count ?? all, all - start + 1);
    return [{ op: "lane.set", clip, lane: id, patch: { window: start === 1 && count >= all ? null : { start, count } } }];
  });
}

interface ChoiceProps {
  id?: string;
  label: string;
  value: string;
  all: readonly string[];
  onChange: (value: string) => void;
}

export function Choice({ id, label, value, all, onChange }: ChoiceProps) {
  return (
    <select id={id} aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {all.map((word) => <option key={word}>{word}</option>)}
    </select>
  );
}

/** All steps of a lane in a row, with those left out of the round hatched. */
function Strip({ lane, view, index }: { lane: LaneDoc; view: LaneView; index: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const selection = useApp((s) => s.selection);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = Math.round(el.clientWidth * ratio);
    el.height = Math.round(12 * ratio);
    drawStrip(pen, lane.steps, view.active, new Set(selection), token(dyes[index % dyes.length]), el.clientWidth, 12);
  });
  return (
    <canvas
      ref={canvas}
      className={css.strip}
      title="All steps; hatched ones are skipped or outside the window"
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        const step = Math.floor(((e.clientX - box.left) / box.width) * lane.steps.length);
        useApp.getState().openLane(lane.id);
        useApp.getState().select([Math.min(step, lane.steps.length - 1)]);
      }}
    />
  );
}

function LaneMenu({ lane }: { lane: LaneDoc }) {
  const s = useApp.getState;
  const run = (op: string, by?: number) => void s().edit([{ op, clip: s().clip, lane: lane.id, by }]);
  const clip = useApp((a) => a.piece?.clips.find((c) => c.id === a.clip));
  const at = (clip?.lanes.findIndex((l) => l.id === lane.id) ?? 0) + 1;
  return (
    <Menu position="bottom-start">
      <Menu.Target><button className={css.toggle} aria-label={`More for ${lane.name}`}>More ▾</button></Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={() => run("lane.double")}>Double the length with its content</Menu.Item>
        <Menu.Item onClick={() => run("lane.copy")}>Duplicate the lane</Menu.Item>
        <Menu.Item disabled={at <= 1} onClick={() => run("lane.move", at - 1)}>Move up</Menu.Item>
        <Menu.Item disabled={at >= (clip?.lanes.length ?? 1)} onClick={() => run("lane.move", at + 1)}>Move down</Menu.Item>
        <Menu.Divider />
        <Menu.Item onClick={() => run("lane.remove")}>Remove the lane</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
