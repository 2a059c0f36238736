import { Button, Popover } from "@mantine/core";
import { useState } from "react";
import type { Lane as LaneDoc } from "../api/gen/piece.gen";
import { NumberBox } from "../app/NumberBox";
import { onSteps } from "../state/actions";
import { useApp } from "../state/store";
import css from "./Sheet.module.css";
import fill from "./FillMenu.module.css";

/** Patterns of chord tones that a pitch fill offers. */
const patterns = [["root"], ["root", "fifth"], ["root", "third", "fifth"], ["root", "root", "octave"], ["root", "third", "fifth", "octave"], ["root", "low fifth"], ["root", "fifth", "octave", "seventh"]];

/** Fills: rhythm fills leave the pitches alone, pitch fills the rhythm. */
export function FillMenu({ lane }: { lane: LaneDoc }) {
  const chosen = useApp((s) => s.selection.length);
  const total = chosen || lane.steps.length;
  const [every, setEvery] = useState(2);
  const [hits, setHits] = useState(5);
  const [turn, setTurn] = useState(0);
  return (
    <Popover position="bottom-start" trapFocus width={292}>
      <Popover.Target><button className={css.toggle} aria-label={`Fill ${lane.name}`}>Fill ▾</button></Popover.Target>
      <Popover.Dropdown className={fill.box}>
        <div className="quiet">{chosen ? `On the ${chosen} selected steps` : `On all ${lane.steps.length} steps`}</div>
        <h4>Rhythm – pitches stay</h4>
        <div className={fill.row}>
          <span>Every</span>
          <NumberBox label="Every so many steps" value={every} low={1} high={64} onChange={setEvery} />
          <span>steps</span>
          <Button size="compact-xs" variant="default" onClick={() => onSteps("fill.every", { by: every })}>Set every</Button>
        </div>
        <div className={fill.row}>
          <NumberBox label="Hits" value={Math.min(hits, total)} low={0} high={total} onChange={setHits} />
          <span>hits, turned by</span>
          <NumberBox label="Rotation" value={turn} low={-64} high={64} onChange={setTurn} />
          <Button size="compact-xs" variant="default" onClick={() => onSteps("fill.even", { by: Math.min(hits, total), pattern: [String(turn)] })}>Spread</Button>
        </div>
        <h4>Pitch – rhythm stays</h4>
        <div className={fill.patterns}>
          {patterns.map((p) => <Button key={p.join()} size="compact-xs" variant="default" onClick={() => onSteps("fill.pattern", { pattern: p })}>{p.join(" · ")}</Button>)}
        </div>
        <div className="quiet">Or hold Alt and draw a contour across the ladder.</div>
      </Popover.Dropdown>
    </Popover>
  );
}
