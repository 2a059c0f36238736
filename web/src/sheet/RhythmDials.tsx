import { Button } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import type { Op } from "../api/gen/schema.gen";
import { Dial } from "../controls/Dial";
import { giveBack } from "../controls/hands";
import { onChosenAll, type Chosen } from "../state/actions";
import { useApp } from "../state/store";
import css from "../lanes/steps/steps.module.css";

/** What the dials were turned to; those that are absent leave what stands. */
interface Turned {
  hits?: number;
  over?: number;
  turn?: number;
  thin?: number;
  accents?: number;
  chance?: number;
  weak?: number;
}

/** The edits that dials stand for, over so many steps of which so many are on. */
function editsOf(on: Chosen, t: Turned, total: number, hits: number): Op[] {
  const over = Math.min(t.over ?? total, total);
  const spread = t.hits !== undefined || t.over !== undefined;
  return [
    ...(!spread && t.turn ? [{ op: "steps.rotate" as const, ...on, by: t.turn, only: "rhythm" }] : []),
    ...(spread
      ? [{ op: "fill.even" as const, ...on, hits: Math.min(t.hits ?? hits, over), over, turn: t.turn ?? 0 }]
      : []),
    ...(t.thin ? [{ op: "fill.thin" as const, ...on, share: t.thin }] : []),
    ...(t.accents !== undefined ? [{ op: "fill.accents" as const, ...on, hits: t.accents, most: true }] : []),
    ...(t.chance !== undefined ? [{ op: "fill.chance" as const, ...on, chance: t.chance }] : []),
    ...(t.weak !== undefined ? [{ op: "fill.chance" as const, ...on, chance: t.weak, weak: true }] : []),
  ];
}

interface Props {
  lane: string;
  /** How many steps there are to fill, and how many of them are on. */
  total: number;
  hits: number;
}

/** A rhythm by dials, over what stood when they came: heard while they turn, written once it is kept. Each turn begins
 * from that, not from the last turn. */
export function RhythmDials({ lane, total, hits }: Props) {
  const [turned, setTurned] = useState<Turned>({});
  const [problem, setProblem] = useState("");
  const latest = useRef<Turned>({});
  const [stood] = useState({ total, hits }); // while something is tried, that is counted on the sheet
  const take = (next: Turned) => {
    latest.current = next;
    setTurned(next);
  };
  const edit = () => onChosenAll((on) => editsOf(on, latest.current, stood.total, stood.hits));
  const move = (part: Turned) => {
    take({ ...latest.current, ...part });
    void useApp.getState().attempt(edit()).then(setProblem);
  };
  const leave = () => {
    if (Object.keys(latest.current).length) useApp.getState().leave();
    take({});
    setProblem("");
  };
  useEffect(
    () => () => {
      if (Object.keys(latest.current).length) useApp.getState().leave();
    },
    [],
  );
  const over = Math.min(turned.over ?? stood.total, stood.total);
  const dial = (field: keyof Turned, name: string, low: number, high: number, value: number, more = {}) => (
    <Dial
      id={`dial-${field}`}
      name={name}
      low={low}
      high={high}
      value={Math.min(turned[field] ?? value, high)}
      onMove={(to) => move({ [field]: to })}
      {...more}
    />
  );
  return (
    <form
      aria-label={`Rhythm of ${lane}`}
      onSubmit={(e) => {
        e.preventDefault();
        if (!Object.keys(latest.current).length) return;
        void useApp
          .getState()
          .edit(edit())
          .then((made) => made && take({}));
        giveBack();
      }}
    >
      {dial("hits", "Hits", 0, over, stood.hits)}
      {dial("over", "over steps", 1, stood.total, stood.total, { label: "Over so many steps" })}
      {dial("turn", "turned by", 0, over - 1, 0, { label: "Rotation" })}
      {dial("thin", "Thinned, %", 0, 100, 0, { title: "Takes hits away, the weaker ones of the bar first" })}
      {dial("accents", "Accents", 0, stood.total, 0, { title: "So many of the hits, evenly" })}
      {dial("chance", "Chance, %", 0, 100, 100, { label: "Chance of all hits" })}
      {dial("weak", "of weak ones, %", 0, 100, 100, {
        label: "Chance of weak hits",
        title: "Of the hits off the beat",
      })}
      {problem && <p role="alert">{problem}</p>}
      <div className={css.row}>
        <Button size="compact-xs" type="submit" disabled={!Object.keys(turned).length}>
          Keep
        </Button>
        <Button size="compact-xs" variant="default" disabled={!Object.keys(turned).length} onClick={leave}>
          Put back
        </Button>
      </div>
    </form>
  );
}
