import type { ChordStep } from "../../api/gen/piece.gen";
import { Choice } from "../../controls/Choice";
import { facts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { TextBox } from "../../controls/TextBox";
import type { Op } from "../../api/gen/schema.gen";
import { setEach, setSelected } from "../../state/actions";
import { useApp } from "../../state/store";
import type { App } from "../../state/app";
import type { LaneProps } from "../kind";
import { CellFields, common, StepHead, Switch } from "../steps/Fields";
import { GlideSwitch, Sliding } from "../steps/Sliding";
import steps from "../steps/steps.module.css";
import css from "./chords.module.css";
import type { ChordsLane } from "./chords";
import { gliding } from "./actions";
import { useChords } from "./state";

const fact = facts.step.chords;
const written = facts.lane.chords.glide.fields;

/** What one chord is, and exact numbers for one step of a chords lane or many. */
export function Fields({ lane, view, selection }: LaneProps<ChordsLane> & { selection: number[] }) {
  const chosen = selection.map((n) => lane.steps[n]).filter((s): s is ChordStep => s !== undefined);
  const [first] = chosen;
  if (!first) return null;
  const same = chosen.every((s) => s.chord === first.chord);
  const time = common(chosen, (s) => s.strum?.time ?? 0);
  const way = common(chosen, (s) => s.strum?.way ?? "up");
  return (
    <>
      <StepHead
        selection={selection}
        name={first.on ? `${view.names[selection[0]!]} ${view.chart?.palette[first.chord - 1]?.numeral ?? ""}` : "rest"}
      />
      {same && first.on && <Chord lane={lane} view={view} place={first.chord} step={selection[0]!} />}
      <div className={steps.switches} role="group" aria-label="Switches">
        <Switch name="On" field="on" steps={chosen} />
        <Switch name="Tie" field="tie" steps={chosen} />
        <GlideSwitch steps={chosen} first={gliding(lane)} />
        <Switch name="Skip" field="skip" steps={chosen} />
      </div>
      <div className={steps.grid}>
        {(["octave", "inversion"] as const).map((field) => {
          const c = common(chosen, (s) => s[field]);
          return (
            <NumberField
              key={field}
              id={`f-${field}`}
              fact={fact[field]}
              value={c.value}
              mixed={c.mixed}
              onChange={(v) => setEach(field, () => v)}
            />
          );
        })}
        <NumberField
          id="f-strum"
          fact={{ ...fact.strum.fields.time, title: fact.strum.title }}
          label="Strum, in percent of the step"
          value={time.value}
          mixed={time.mixed}
          onChange={(v) => setEach<ChordStep>("strum", (s) => (v ? { ...s.strum, time: v } : null))}
        />
        <span className={steps.rest}>
          <Choice
            label="Way of the strum"
            value={way.value}
            all={fact.strum.fields.way.choices}
            words={{ up: "upwards", down: "downwards", turns: "by turns" }}
            onChange={(v) => setEach<ChordStep>("strum", (s) => ({ time: s.strum?.time ?? 20, way: v }))}
          />
        </span>
        <CellFields steps={chosen} kind="chords" />
        {lane.glide && <Sliding lane={lane} steps={chosen} written={written} />}
      </div>
    </>
  );
}

/** Drops the chords that no step uses, the last first, so that their places hold. */
const dropUnused = (clip: string, lane: string) => (now: App) =>
  (now.view?.lanes.find((l) => l.id === lane)?.chart?.palette ?? [])
    .map((entry, i): [number, number] => [i + 1, entry.steps.length])
    .filter(([, uses]) => uses === 0)
    .reverse()
    .map(([place]): Op => ({ op: "chords.drop", clip, lane, place }));

/** A chord of the palette: its tones, where it stands, and why it is called so. */
function Chord({ lane, view, place, step }: LaneProps<ChordsLane> & { place: number; step: number }) {
  const clip = useApp((s) => s.clip);
  const { only, set } = useChords();
  const entry = view.chart?.palette[place - 1];
  if (!entry || !view.chart) return null;
  const { movement, written } = view.chart;
  const names = view.pitches[step]!.map((p) => view.ladder.find((r) => r.pitch === p)?.name ?? "");
  const saved = written - movement;
  const unused = view.chart.palette.filter((e) => e.steps.length === 0).length;
  return (
    <div className={css.chord}>
      <p className="mono" data-testid="chord-tones">
        {names.join(" ")}
      </p>
      <div className={css.own}>
        <label htmlFor="chord-place">Palette</label>
        <span className={css.palette}>
          <Choice
            id="chord-place"
            label="Chord of the palette"
            value={String(place)}
            all={view.chart.palette.map((_, i) => String(i + 1))}
            words={Object.fromEntries(
              view.chart.palette.map((e, i) => [String(i + 1), `${e.symbol}${e.name ? ` ${e.name}` : ""}`]),
            )}
            onChange={(n) => setSelected({ chord: Number(n) })}
          />
          {unused > 0 && (
            <button onClick={() => void useApp.getState().edit(dropUnused(clip, lane.id))}>Drop {unused} unused</button>
          )}
        </span>
      </div>
      <div className={css.uses}>
        <span>{entry.steps.length > 1 ? `At steps ${entry.steps.join(", ")}` : "At this step alone"}</span>
        <label title="An edit of the chord is for this step, and leaves the others alone">
          <input type="checkbox" checked={only} onChange={(e) => set({ only: e.target.checked })} /> Only here
        </label>
      </div>
      <details>
        <summary>Why it is called so</summary>
        <p data-testid="chord-why">{entry.why}</p>
        <div className={css.own}>
          <label htmlFor="chord-name">Own name</label>
          <TextBox
            id="chord-name"
            label="Own name of the chord"
            value={entry.name}
            placeholder="none"
            longest={facts.lane.chords.palette.fields.name.longest}
            onChange={(name) => void useApp.getState().edit([{ op: "chords.name", clip, lane: lane.id, place, name }])}
          />
        </div>
      </details>
      <p className={css.movement} data-testid="movement">
        {lane.voicing.mode === "smooth"
          ? `Voices move ${movement} semitones a round, ${saved >= 0 ? `${saved} fewer` : `${-saved} more`} than as written.`
          : `Voices move ${movement} semitones a round, as written. V lets them move less.`}
      </p>
    </div>
  );
}
