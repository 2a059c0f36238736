import type { Band } from "../canvas/drawing/geometry";
import { yOf } from "../canvas/drawing/geometry";
import { GUTTER } from "../canvas/drawing/ground";
import css from "./Sheet.module.css";

/** What to do first, written beside the place where the first note would be. */
export function Teaching({ text, band, top }: { text: string; band: Band; top: number }) {
  const home = band.rows.find((r) => r.tonic && r.octave === 0) ?? band.rows.find((r) => r.tonic) ?? band.rows[0];
  const y = top + (home && band.rows.length > 1 ? yOf(band, home.pitch) : (band.ladderTop + band.ladderBottom) / 2);
  return (
    <div className={css.teaching} style={{ left: GUTTER + 4, top: Math.max(y - 40, top + 2) }} data-testid="teaching">
      <svg width="46" height="46" aria-hidden>
        <path
          d="M44 13 C31 4 14 9 8 31 M2.5 24.5 C5 28 7 31 8 35 C10.5 31.5 13 29 17 27"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
          strokeLinecap="round"
        />
      </svg>
      <span>{text}</span>
    </div>
  );
}
