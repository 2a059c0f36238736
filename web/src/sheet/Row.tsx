import { memo, useRef } from "react";
import type { Finding, Mend } from "../api/gen/render.gen";
import type { Lane } from "../api/gen/schema.gen";
import type { Harmony, Lane as LaneView } from "../api/gen/view.gen";
import { railsHeight } from "../canvas/drawing/geometry";
import { kindOf } from "../lanes/kinds";
import { lookOf, lowestOf, useSheet } from "../state/sheet";
import { useApp } from "../state/store";
import { dye } from "../theme";
import { LaneBand, scrollLadder } from "./LaneBand";
import { LaneHeader } from "./LaneHeader";
import { Teaching } from "./Teaching";
import css from "./Sheet.module.css";

/** Does what a finding offers. */
export function MendButton({ mend, title }: { mend: Mend; title?: string }) {
  return (
    <button title={title} onClick={() => void useApp.getState().edit(mend.ops)}>
      {mend.label}
    </button>
  );
}

/** The least height of an open lane; view: of the lane, or of another that stood there. */
export function leastOf(lane: Lane, view: LaneView | undefined): number {
  const kind = kindOf(lane);
  return kind.top + (view?.id === lane.id ? kind.least(lane, view) : 0);
}

interface RowProps {
  doc: Lane;
  shown: LaneView;
  clip: string;
  barTicks: number;
  beatTicks: number;
  /** The chords that its rungs are tinted by; null: none. */
  harmony: Harmony | null;
  index: number;
  height: number;
  joins: boolean;
  silent: Finding | undefined;
  /** Nothing was put into the clip yet. */
  teaches: boolean;
}

/** A lane on the sheet: its header, its band, and why it is silent where it is. */
export const Row = memo(function Row(props: RowProps) {
  const { doc, shown, clip, barTicks, beatTicks, harmony, index, height, joins, silent, teaches } = props;
  const look = useSheet((s) => lookOf(s, doc.id));
  const kind = kindOf(doc);
  const rows = kind.ladder(shown);
  const top = look.open ? kind.top : 0;
  const band = kind.band(doc, shown, { open: look.open, height: height - top, lowest: lowestOf(look, height - top) });
  const scroll = (by: number) => scrollLadder(doc.id, rows, band.rows[0]?.pitch ?? 0, by, band.rows.length);
  return (
    <div
      className={css.lane}
      data-row={doc.id}
      data-open={look.open}
      data-joins={joins}
      data-block={kind.block}
      style={{ "--hue": dye(index) } as React.CSSProperties}
    >
      <LaneHeader lane={doc} view={shown} index={index} height={height} />
      <div className={css.band} style={{ height }}>
        {top > 0 && kind.Top && (
          <div className={css.top} style={{ height: top }}>
            <kind.Top lane={doc} view={shown} />
          </div>
        )}
        <LaneBand
          lane={doc}
          view={shown}
          clip={clip}
          ticks={shown.until}
          barTicks={barTicks}
          beatTicks={beatTicks}
          index={index}
          height={height - top}
          harmony={harmony}
        />
        {look.open && rows.length > 0 && (
          <>
            <button
              className={css.more}
              style={{ top: top + 2 }}
              aria-label="Show higher notes"
              title="Show higher notes"
              onClick={() => scroll(4)}
            >
              ▲
            </button>
            <button
              className={css.more}
              style={{ bottom: railsHeight(band.rails.length) - 6 }}
              aria-label="Show lower notes"
              title="Show lower notes"
              onClick={() => scroll(-4)}
            >
              ▼
            </button>
          </>
        )}
        {look.open && teaches && kind.first && <Teaching text={kind.first} band={band} top={top} />}
        {silent && !(look.open && teaches) && (
          <div className={css.silent}>
            <span>{silent.message}</span>
            {silent.mend && <MendButton mend={silent.mend} />}
          </div>
        )}
      </div>
      {look.open && <Grip lane={doc} least={leastOf(doc, shown)} height={height} />}
    </div>
  );
});

/** The lower edge of an open lane, dragged to make it higher or lower. */
function Grip({ lane, least, height }: { lane: Lane; least: number; height: number }) {
  const from = useRef<{ y: number; height: number } | null>(null);
  const { look } = useSheet.getState();
  const to = (next: number) => look(lane.id, { height: Math.max(next, least) });
  return (
    <div
      className={css.grip}
      role="separator"
      aria-label={`Height of ${lane.name}`}
      aria-orientation="horizontal"
      aria-valuenow={Math.round(height)}
      aria-valuemin={least}
      aria-valuemax={2000}
      tabIndex={0}
      title="Drag to change the height; double click to share it again"
      onPointerDown={(e) => {
        from.current = { y: e.clientY, height };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => from.current && to(from.current.height + e.clientY - from.current.y)}
      onPointerUp={() => (from.current = null)}
      onDoubleClick={() => look(lane.id, { height: null })}
      onKeyDown={(e) => {
        if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
        e.preventDefault();
        e.stopPropagation();
        to(height + (e.key === "ArrowDown" ? 18 : -18));
      }}
    />
  );
}
