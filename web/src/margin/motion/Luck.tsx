import { freeNotes, placeWord } from "../../api/free";
import { useState } from "react";
import type { Drawn, Odd } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { defaultKind } from "../../api/default";
import { facts, laneFact } from "../../api/facts";
import { HeldSlider } from "../../controls/HeldSlider";
import { NumberBox } from "../../controls/NumberBox";
import { TextBox } from "../../controls/TextBox";
import { setLane } from "../../state/actions";
import { useSheet, zoomOf } from "../../state/sheet";
import { useApp } from "../../state/store";
import css from "./motion.module.css";
import { changeOdds } from "./edit";

const fact = laneFact.odds;

/** Sets of alternatives to begin from. */
const sets: readonly { name: string; odds: readonly Partial<Odd>[] }[] = [
  { name: "Two speeds, and silence", odds: [{ weight: 60 }, { weight: 30, ratchet: 2 }, { weight: 10, rest: true }] },
  {
    name: "Scattered octaves",
    odds: [{ weight: 70 }, { weight: 20, octave: [-1, 1] }, { weight: 10, octave: [0, 2] }],
  },
  { name: "Scattered degrees", odds: [{ weight: 60 }, { weight: 30, degrees: [-2, 4] }, { weight: 10, degrees: 7 }] },
  { name: "Soft and short", odds: [{ weight: 60 }, { weight: 40, velocity: [-40, -10], gate: [20, 60] }] },
];

/** The alternatives of a lane's luck, other draws of it, and a way to hold one. */
export function Luck({ lane, view }: { lane: Lane; view: LaneView }) {
  const [open, setOpen] = useState(-1);
  const words = view.odds;
  const all = lane.odds.reduce((sum, o) => sum + o.weight, 0);
  return (
    <div className={css.part} role="group" aria-label="Luck">
      <h3>Luck</h3>
      {lane.odds.length === 0 && <p>Each sounding {placeWord(lane)} draws one of some alternatives, by weight.</p>}
      {lane.odds.map((odd, i) => (
        <div key={i}>
          <div className={css.odd}>
            <NumberBox
              label={`Weight of alternative ${i + 1}`}
              value={odd.weight}
              low={1}
              high={100}
              onChange={(weight) => put(lane, i, { weight })}
            />
            <button
              className={css.words}
              aria-expanded={open === i}
              aria-label={`Alternative ${i + 1}: ${words[i]}, ${Math.round((odd.weight / all) * 100)} percent`}
              onClick={() => setOpen(open === i ? -1 : i)}
            >
              {words[i]}
            </button>
            <span className="mono">{Math.round((odd.weight / all) * 100)}%</span>
            <button
              aria-label={`Remove alternative ${i + 1}`}
              onClick={() => {
                setOpen(-1);
                changeOdds(lane, (list) => list.filter((_, k) => k !== i));
              }}
            >
              ×
            </button>
            <HeldSlider
              label={`Weigh alternative ${i + 1}`}
              low={1}
              high={100}
              value={odd.weight}
              onChange={(weight) => put(lane, i, { weight })}
            />
          </div>
          {open === i && <Alternative lane={lane} index={i} odd={odd} />}
        </div>
      ))}
      <div className={css.buttons}>
        {lane.odds.length === 0
          ? sets.map((set) => (
              <button key={set.name} onClick={() => changeOdds(lane, () => [...set.odds])}>
                {set.name}
              </button>
            ))
          : lane.odds.length < fact.high && (
              <button
                onClick={() => {
                  changeOdds(lane, (list) => [...list, { weight: 20 }]);
                  setOpen(lane.odds.length);
                }}
              >
                Add an alternative
              </button>
            )}
      </div>
      <Draws lane={lane} view={view} />
    </div>
  );
}

const put = (lane: Lane, index: number, part: Partial<Odd>): void =>
  changeOdds(lane, (list) => list.map((own, i) => (i === index ? { ...own, ...part } : own)));

type Span = Drawn | null;
const ends = (span: Span): [number, number] => (typeof span === "number" ? [span, span] : (span ?? [0, 0]));
/** What an alternative may change, with what it is when that is begun. */
const spans = [
  ["degrees", 0],
  ["octave", 0],
  ["velocity", 0],
  ["gate", facts.step[defaultKind].gate.initial],
] as const;

/** What one alternative does. */
function Alternative({ lane, index, odd }: { lane: Lane; index: number; odd: Odd }) {
  const of = `of alternative ${index + 1}`;
  return (
    <div className={css.wave}>
      <div className={css.buttons}>
        <button aria-pressed={odd.rest} onClick={() => put(lane, index, { rest: !odd.rest })}>
          Rest
        </button>
        {spans.map(([field, initial]) => (
          <button
            key={field}
            disabled={odd.rest}
            aria-pressed={odd[field] !== null}
            onClick={() => put(lane, index, { [field]: odd[field] === null ? initial : null })}
          >
            {fact.fields[field].title}
          </button>
        ))}
        <button
          disabled={odd.rest}
          aria-pressed={odd.ratchet !== null}
          onClick={() => put(lane, index, { ratchet: odd.ratchet === null ? 2 : null })}
        >
          Ratchet
        </button>
      </div>
      <div className={css.grid}>
        {spans.map(([field]) => {
          const { low, high } = fact.fields[field];
          const span = odd[field] as Span;
          if (span === null) return null;
          const [a, b] = ends(span);
          const set = (from: number, to: number) => put(lane, index, { [field]: from === to ? from : [from, to] });
          return [
            <span key={field}>{field}</span>,
            <NumberBox
              key="a"
              label={`Least ${field} ${of}`}
              value={a}
              low={low}
              high={high}
              onChange={(v) => set(v, Math.max(v, b))}
            />,
            <span key="to">to</span>,
            <NumberBox
              key="b"
              label={`Most ${field} ${of}`}
              value={b}
              low={low}
              high={high}
              onChange={(v) => set(Math.min(a, v), v)}
            />,
          ];
        })}
        {odd.ratchet !== null && (
          <>
            <span>ratchet</span>
            <NumberBox
              label={`Ratchet ${of}`}
              value={odd.ratchet}
              low={fact.fields.ratchet.low}
              high={fact.fields.ratchet.high}
              onChange={(ratchet) => put(lane, index, { ratchet })}
            />
          </>
        )}
      </div>
    </div>
  );
}

/** How many draws back one can go at a touch. */
const BACK = 8;

/** Other draws of all that luck decides in the lane, and the way back to the last eight. */
function Draws({ lane, view }: { lane: Lane; view: LaneView }) {
  const round = useSheet((s) => roundInSight(view, s.scroll / zoomOf(s)));
  const recent = Array.from({ length: BACK }, (_, i) => lane.take - i).filter((n) => n >= 0);
  const [rounds, setRounds] = useState("");
  const named = rounds
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  const { clip, edit } = useApp.getState();
  return (
    <>
      <div className={css.foot}>
        <button
          title="A new draw of all that chance, shuffle and odds decide in this lane alone"
          onClick={() => setLane(lane.id, { take: Math.min(lane.take + 1, laneFact.take.high) })}
        >
          Another draw
        </button>
        <select
          aria-label={`Draw of ${lane.name}`}
          value={lane.take}
          onChange={(e) => setLane(lane.id, { take: Number(e.target.value) })}
        >
          {recent.map((n) => (
            <option key={n} value={n}>
              draw {n + 1}
            </option>
          ))}
        </select>
      </div>
      {freeNotes(lane) ? (
        <div className={css.foot}>
          <button
            title="Writes what luck decides into notes of their own, and mutes these"
            onClick={() => useApp.getState().set({ panel: "print" })}
          >
            Print
          </button>
        </div>
      ) : (
        <div className={css.foot}>
          <label htmlFor="hold-rounds" title="Of several rounds the lane becomes as long as all of them">
            Rounds
          </label>
          <TextBox
            id="hold-rounds"
            label="Rounds to hold"
            className="mono"
            value={rounds}
            mayBeEmpty
            placeholder={String(round)}
            style={{ width: 70 }}
            onChange={setRounds}
          />
          <button
            disabled={!view.chancy}
            title="Writes what these rounds drew into the steps: odds, chance, rounds and a drawn order are then gone"
            onClick={() =>
              void edit([{ op: "lane.hold", clip, lane: lane.id, rounds: named.length ? named : [round] }])
            }
          >
            {named.length > 1 ? "Hold these" : "Hold this"}
          </button>
        </div>
      )}
    </>
  );
}

/** The round, from 1, that is first wholly in sight from a tick on. */
function roundInSight(view: LaneView, tick: number): number {
  const k = view.slotAt.findIndex((at, i) => at >= tick - 1 && (i === 0 || view.rounds[i] !== view.rounds[i - 1]));
  return (view.rounds[Math.max(k, 0)] ?? 0) + 1;
}
