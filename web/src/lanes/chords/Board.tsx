import { Menu } from "@mantine/core";
import type { BoardChord, BoardOther } from "../../api/gen/chords.gen";
import { useBoard } from "../../api/queries";
import { audition } from "../../state/player";
import { Choice } from "../../controls/Choice";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { placeDegree, takeChord } from "./actions";
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
      <div className={css.cells}>
        {board?.degrees.map(({ degree, chords }) => {
          const chord = chords.find((c) => c.kind === kind);
          return (
            chord && (
              <button
                key={degree}
                className={css.cell}
                aria-label={`${degree} ${chord.symbol} ${chord.numeral}`}
                title={`${chord.symbol}: key ${degree}`}
                onPointerDown={() => audition(lane, chord.pitches)}
                onClick={(e) => placeDegree(degree, e.detail === 0)}
              >
                <i>{degree}</i> <Stack chord={chord} />
                <b>{chord.symbol}</b> <span>{chord.numeral}</span>
              </button>
            )
          );
        })}
        {board && board.others.length > 0 && <Others others={board.others} />}
      </div>
    </section>
  );
}

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
    <Menu position="bottom-end">
      <Menu.Target>
        <button className={css.cell} aria-label="Chords from other palettes ▾" title="From another palette">
          <span className={css.from}>from other palettes ▾</span>
        </button>
      </Menu.Target>
      <Menu.Dropdown style={{ maxHeight: 380, overflowY: "auto" }}>
        {[...groups].map(([from, own]) => (
          <div key={from}>
            <Menu.Label>
              {own[0]!.clipName}: {own[0]!.laneName}
            </Menu.Label>
            {own.map((o) => (
              <Menu.Item key={o.place} onClick={() => takeChord(o.clip, o.lane, o.place)}>
                {o.symbol} <span className="quiet">{o.numeral}</span>
              </Menu.Item>
            ))}
          </div>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
