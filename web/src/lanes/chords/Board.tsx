import type { BoardChord, BoardOther } from "../../api/gen/chords.gen";
import { useBoard } from "../../api/queries";
import { audition, isPlaying } from "../../state/player";
import { Choice } from "../../controls/Choice";
import { PointList } from "../../controls/PointList";
import { Popup } from "../../controls/Popup";
import { usePointing } from "../../state/pointing";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { placeDegree, stackOp, takeOp, walkOn } from "./actions";
import type { ChordsLane } from "./chords";
import css from "./chords.module.css";
import { useChords } from "./state";

/** The chords on the key's degrees, each drawn as a small stack of rungs in which the
 * tones that the chord before has too are filled. */
export function Board({ lane }: LaneProps<ChordsLane>) {
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const clip = useApp((s) => s.clip);
  const cursor = useApp((s) => (s.selection.length === 1 ? s.selection[0]! : s.cursor));
  const kinds = useApp((s) => s.words?.stacks) ?? [];
  const { kind, set } = useChords();
  const { data: board } = useBoard(id, version, clip, lane.id, Math.min(cursor, lane.steps.length - 1) + 1);
  // Over the loop what is pointed at is heard where it would stand; else a press lets it be heard alone.
  const pointing = usePointing(false);
  const tryDegree = (degree: number) => isPlaying() && pointing.point(`board ${degree}`, [stackOp(degree)]);
  return (
    <section className={css.board} aria-label="Chord board">
      <div className={css.boardHead}>
        <label htmlFor="board-kind">Step {cursor + 1} takes a</label>
        <Choice
          id="board-kind"
          label="Kind of chord on the board"
          value={kind}
          all={kinds}
          onChange={(k) => set({ kind: k })}
        />
      </div>
      <div className={css.cells} onPointerLeave={() => pointing.name && pointing.leave()}>
        {board?.degrees.map(({ degree, chords }) => {
          const chord = chords.find((c) => c.kind === kind);
          return (
            chord && (
              <button
                key={degree}
                className={css.cell}
                aria-label={`${degree} ${chord.symbol} ${chord.numeral}`}
                title={`${chord.symbol}: key ${degree}${follows(chord)}`}
                onPointerEnter={() => tryDegree(degree)}
                onFocus={(e) => e.currentTarget.matches(":focus-visible") && tryDegree(degree)}
                onBlur={() => pointing.name && pointing.leave()}
                onPointerDown={() => audition(lane, chord.pitches)}
                onClick={(e) => placeDegree(degree, e.detail === 0)}
              >
                <i>{degree}</i> <Stack chord={chord} />
                <b>{chord.symbol}</b> <span>{chord.numeral}</span>
                {chord.follows <= MARKED && <em aria-hidden>{"›".repeat(MARKED + 1 - chord.follows)}</em>}
              </button>
            )
          );
        })}
        {board && board.others.length > 0 && <Others others={board.others} />}
      </div>
    </section>
  );
}

/** So many chords that follow well are marked, the best with the most marks. */
const MARKED = 3;

/** How well a chord follows the one before, in words; empty: no better than most. */
const follows = ({ follows }: BoardChord): string =>
  ["", ", follows best", ", follows second best", ", follows third best"][follows] ?? "";

/** A chord as a small stack of rungs, a semitone a pixel and a half; those filled are
 * shared with the chord before. */
function Stack({ chord }: { chord: BoardChord }) {
  const low = Math.min(...chord.pitches);
  const span = Math.max(...chord.pitches) - low;
  const unit = 27 / Math.max(span, 12);
  return (
    <svg width="32" height="30" viewBox="0 1 34 32" aria-hidden>
      {chord.pitches.map((p, i) => (
        <rect
          key={p}
          x="5.5"
          y={29 - (p - low) * unit}
          width="23"
          height="3"
          fill={chord.shared[i] ? "var(--ink)" : "var(--leaf)"}
          stroke="var(--ink)"
          strokeWidth="0.8"
        />
      ))}
    </svg>
  );
}

/** Chords of other palettes, to take one from. */
function Others({ others }: { others: BoardOther[] }) {
  const groups = new Map<string, BoardOther[]>();
  for (const o of others) {
    const from = `${o.clip} ${o.lane}`;
    groups.set(from, [...(groups.get(from) ?? []), o]);
  }
  return (
    <Popup
      button={
        <button className={css.cell} aria-label="Chords from other palettes ▾" title="From another palette">
          <span className={css.from}>from other palettes ▾</span>
        </button>
      }
      position="bottom-end"
      width={260}
      trapFocus
    >
      {(close) => (
        <PointList
          label="Chords of other palettes"
          items={[...groups].flatMap(([from, own]) =>
            own.map((o, i) => ({
              name: `${from} ${o.place}`,
              label: o.symbol,
              detail: o.numeral,
              under: i === 0 ? `${o.clipName}: ${o.laneName}` : undefined,
              edit: [takeOp(o.clip, o.lane, o.place)],
            })),
          )}
          onKept={() => {
            walkOn();
            close();
          }}
        />
      )}
    </Popup>
  );
}
