import { Button } from "@mantine/core";
import { useState, type ReactNode } from "react";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { Choice } from "../controls/Choice";
import { NumberBox } from "../controls/NumberBox";
import { laneFact } from "../api/facts";
import { freeNotes } from "../api/free";
import { giveBack } from "../controls/hands";
import { many } from "../words";
import { onChosen, type Chosen } from "../state/actions";
import type { Op } from "../api/gen/schema.gen";
import { affected, clipOf, placesOf, stepsOf, useApp } from "../state/store";
import type { LaneProps } from "../lanes/kind";
import { kindOf } from "../lanes/kinds";
import { RhythmDials } from "./RhythmDials";
import css from "../lanes/steps/steps.module.css";

/** The steps that a fill works on: those that are selected, and those that their notes run
 * through; all where none is. */
function spanOf(view: LaneView, selection: readonly number[], count: number): number {
  if (!selection.length) return count;
  const steps = selection.flatMap((n) => Array.from({ length: Math.max(view.spans[n] ?? 1, 1) }, (_, i) => n + i));
  return new Set(steps).size;
}

/** A row of the menu: Enter in one of its fields does what its first button says. */
function Row({ run, children }: { run: () => void; children: ReactNode }) {
  return (
    <form
      className={css.row}
      onSubmit={(e) => {
        e.preventDefault();
        run();
        giveBack();
      }}
    >
      {children}
    </form>
  );
}

function Do({ label, title, run }: { label: string; title?: string; run?: () => void }) {
  return (
    <Button size="compact-xs" variant="default" title={title} type={run ? "button" : "submit"} onClick={run}>
      {label}
    </Button>
  );
}

const fill = (build: (on: Chosen) => Op) => void onChosen(build);

/** Fills: rhythm fills leave the pitches alone; a kind's own come after them. */
export function Fills({ lane, view }: LaneProps) {
  const selection = useApp((s) => s.selection);
  const version = useApp((s) => s.version); // what was kept is what the next turn begins from
  const others =
    useApp((s) => clipOf(s)?.lanes)?.filter((l) => l.id !== lane.id && (placesOf(l) > 0 || freeNotes(l))) ?? [];
  const count = placesOf(lane);
  const total = spanOf(view, selection, count);
  const hits = affected(useApp.getState()).filter((n) => stepsOf(lane)[n - 1]?.on).length;
  const [every, setEvery] = useState(2);
  const [from, setFrom] = useState("");
  const [taken, setTaken] = useState({ loudness: false, lengths: false });
  const source = others.find((l) => l.id === from) ?? others[0];
  const most = laneFact.steps.high;
  const { Fills: Own } = kindOf(lane);
  const chosen = selection.length;
  return (
    <>
      <div className="quiet">
        {!chosen
          ? `On all ${many(count, "step")}`
          : total > chosen
            ? `On the ${many(total, "step")} that ${chosen === 1 ? "the selected note runs" : "the selected notes run"} through`
            : chosen === 1
              ? "On the selected step"
              : `On the ${chosen} selected steps`}
      </div>
      <h3>Rhythm – pitches stay</h3>
      <RhythmDials key={`${version} ${selection.join()}`} lane={lane.name} total={total} hits={hits} />
      <Row run={() => fill((on) => ({ op: "fill.every", ...on, every }))}>
        <span>Every</span>
        <NumberBox label="Every so many steps" value={every} low={1} high={most} onChange={setEvery} />
        <span>{every === 1 ? "step" : "steps"}</span>
        <Do label="Set every" />
      </Row>
      <div className={css.row}>
        {[1, 2, 3].map((take) => (
          <Do
            key={take}
            label={`${take} of ${take + 1}`}
            run={() => fill((on) => ({ op: "fill.share", ...on, take, of: take + 1 }))}
          />
        ))}
        <Do
          label="Double"
          title="A softer hit between each and the next"
          run={() => fill((on) => ({ op: "fill.double", ...on }))}
        />
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
          <Do
            label="Take its rhythm"
            run={() => fill((on) => ({ op: "fill.from", ...on, from: source.id, ...taken }))}
          />
          <Do
            label="Its rests"
            title="Hits where the other lane rests"
            run={() => fill((on) => ({ op: "fill.from", ...on, from: source.id, rests: true }))}
          />
        </div>
      )}
      {source && (
        <div className={css.taken}>
          {(["loudness", "lengths"] as const).map((what) => (
            <label key={what}>
              <input
                type="checkbox"
                checked={taken[what]}
                onChange={(e) => setTaken({ ...taken, [what]: e.target.checked })}
              />{" "}
              with its {what}
            </label>
          ))}
        </div>
      )}
      <Own lane={lane} view={view} />
    </>
  );
}
