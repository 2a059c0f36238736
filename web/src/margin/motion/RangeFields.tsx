import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { Choice } from "../../controls/Choice";
import { laneFact } from "../../api/facts";
import { PitchBox } from "../../controls/PitchBox";
import { setLane } from "../../state/actions";
import { useApp } from "../../state/store";
import css from "./motion.module.css";

const fact = laneFact.range.fields;
const WIDTH = 224;
const LOWEST = 12;
const HIGHEST = 108;

/** The pitches that a lane keeps to, with a strip of octaves: what is allowed, what sounds,
 * and what was moved. */
export function RangeFields({ lane, view }: { lane: Lane; view: LaneView }) {
  const { range } = lane;
  const set = (part: Record<string, unknown>) => setLane(lane.id, { range: { ...range, ...part } });
  const sounding = [...new Set(view.notes.map((n) => n.pitch))];
  return (
    <div className={css.part} role="group" aria-label="Range">
      <h3>
        Range
        <button
          aria-pressed={range !== null}
          onClick={() => setLane(lane.id, { range: range ? null : { ...view.octaves, outside: "fold" } })}
        >
          {range ? "Limited" : "All pitches"}
        </button>
      </h3>
      {range && (
        <>
          <Strip range={range} sounding={sounding} moved={view.outside} />
          <div className={css.grid}>
            <span>Low, high</span>
            <PitchBox label={`Range of ${lane.name}`} low={range.low} high={range.high} onChange={set} />
            <span>outside</span>
            <Choice
              label={`Notes outside the range of ${lane.name}`}
              value={range.outside}
              all={fact.outside.choices}
              onChange={(outside) => set({ outside })}
            />
          </div>
          <p data-testid="outside">
            {view.outside.length
              ? `${view.outside.length} ${view.outside.length === 1 ? "pitch lies" : "pitches lie"} outside.`
              : "Every note lies within."}
          </p>
        </>
      )}
    </div>
  );
}

interface StripProps {
  range: { low: number; high: number };
  sounding: readonly number[];
  moved: readonly number[];
}

function Strip({ range, sounding, moved }: StripProps) {
  const x = (pitch: number) => ((Math.min(Math.max(pitch, LOWEST), HIGHEST) - LOWEST) / (HIGHEST - LOWEST)) * WIDTH;
  const octaves = useApp((s) => s.words?.octaves) ?? [];
  return (
    <svg
      className={css.strip}
      viewBox={`0 0 ${WIDTH} 34`}
      role="img"
      aria-label={`Allowed ${range.low} to ${range.high}; ${sounding.length} pitches sound, ${moved.length} lie outside`}
    >
      <rect
        x={x(range.low)}
        width={Math.max(x(range.high) - x(range.low), 2)}
        y={0}
        height={24}
        fill="var(--paper-3)"
      />
      {octaves.map(({ pitch: c, name }) => (
        <g key={c}>
          <line x1={x(c)} x2={x(c)} y1={0} y2={24} stroke="var(--rule-strong)" strokeWidth={0.7} />
          {c < HIGHEST && (
            <text x={x(c) + 2} y={33} fontSize={9} fill="var(--ink-2)" fontFamily="var(--mono)">
              {name}
            </text>
          )}
        </g>
      ))}
      {sounding.map((p) => (
        <rect key={p} x={x(p) - 1.2} width={2.4} y={13} height={8} fill="var(--ink)" />
      ))}
      {moved.map((p) => (
        <circle key={p} cx={x(p)} cy={6} r={3} fill="var(--paper)" stroke="var(--ink)" />
      ))}
    </svg>
  );
}
