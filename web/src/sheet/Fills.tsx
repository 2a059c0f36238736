import { Button } from "@mantine/core";
import { useState } from "react";
import { Choice } from "../controls/Choice";
import { NumberBox } from "../controls/NumberBox";
import { laneFact } from "../controls/facts";
import { onChosen } from "../state/actions";
import { clipOf, placesOf, useApp } from "../state/store";
import type { LaneProps } from "../lanes/kind";
import { kindOf } from "../lanes/kinds";
import css from "../lanes/steps/steps.module.css";

/** Fills: rhythm fills leave the pitches alone; a kind's own come after them. */
export function Fills({ lane, view }: LaneProps) {
  const chosen = useApp((s) => s.selection.length);
  const others = useApp((s) => clipOf(s)?.lanes)?.filter((l) => l.id !== lane.id && placesOf(l) > 0) ?? [];
  const count = placesOf(lane);
  const total = chosen || count;
  const [every, setEvery] = useState(2);
  const [hits, setHits] = useState(5);
  const [turn, setTurn] = useState(0);
  const [accents, setAccents] = useState(2);
  const [chance, setChance] = useState(60);
  const [from, setFrom] = useState("");
  const source = others.find((l) => l.id === from) ?? others[0];
  const most = laneFact.steps.high;
  const { Fills: Own } = kindOf(lane);
  return (
    <>
      <div className="quiet">{chosen ? `On the ${chosen} selected steps` : `On all ${count} steps`}</div>
      <h4>Rhythm – pitches stay</h4>
      <div className={css.row}>
        <span>Every</span>
        <NumberBox label="Every so many steps" value={every} low={1} high={most} onChange={setEvery} />
        <span>steps</span>
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => onChosen((on) => ({ op: "fill.every", ...on, every }))}
        >
          Set every
        </Button>
      </div>
      <div className={css.row}>
        <NumberBox label="Hits" value={Math.min(hits, total)} low={0} high={total} onChange={setHits} />
        <span>hits, turned by</span>
        <NumberBox label="Rotation" value={turn} low={-64} high={64} onChange={setTurn} />
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => onChosen((on) => ({ op: "fill.even", ...on, hits: Math.min(hits, total), turn }))}
        >
          Spread
        </Button>
      </div>
      <div className={css.row}>
        {[
          [1, 2],
          [2, 3],
          [3, 4],
        ].map(([take, of]) => (
          <Button
            key={of}
            size="compact-xs"
            variant="default"
            onClick={() => onChosen((on) => ({ op: "fill.share", ...on, take: take!, of: of! }))}
          >
            {take} of {of}
          </Button>
        ))}
      </div>
      <div className={css.row}>
        <NumberBox label="Accents" value={accents} low={0} high={total} onChange={setAccents} />
        <span>accents on the hits</span>
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => onChosen((on) => ({ op: "fill.accents", ...on, hits: accents }))}
        >
          Accent
        </Button>
      </div>
      <div className={css.row}>
        <span>Chance</span>
        <NumberBox label="Chance for the hits, in percent" value={chance} low={0} high={100} onChange={setChance} />
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => onChosen((on) => ({ op: "fill.chance", ...on, chance }))}
        >
          On all
        </Button>
        <Button
          size="compact-xs"
          variant="default"
          title="On the hits off the beat"
          onClick={() => onChosen((on) => ({ op: "fill.chance", ...on, chance, weak: true }))}
        >
          On weak ones
        </Button>
      </div>
      <div className={css.row}>
        <Button
          size="compact-xs"
          variant="default"
          title="Takes every second hit away, the weaker ones first"
          onClick={() => onChosen((on) => ({ op: "fill.thin", ...on }))}
        >
          Thin out
        </Button>
        <Button
          size="compact-xs"
          variant="default"
          title="A softer hit between each and the next"
          onClick={() => onChosen((on) => ({ op: "fill.double", ...on }))}
        >
          Double
        </Button>
      </div>
      {source && (
        <div className={css.row}>
          <span>From</span>
          <Choice
            label="Lane to take the rhythm from"
            value={source.id}
            all={others.map((l) => l.id)}
            words={Object.fromEntries(others.map((l) => [l.id, l.name]))}
            onChange={setFrom}
          />
          <Button
            size="compact-xs"
            variant="default"
            onClick={() => onChosen((on) => ({ op: "fill.from", ...on, from: source.id }))}
          >
            Take its rhythm
          </Button>
          <Button
            size="compact-xs"
            variant="default"
            title="Hits where the other lane rests"
            onClick={() => onChosen((on) => ({ op: "fill.from", ...on, from: source.id, rests: true }))}
          >
            Its rests
          </Button>
        </div>
      )}
      <Own lane={lane} view={view} />
    </>
  );
}
