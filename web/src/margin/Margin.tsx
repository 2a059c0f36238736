import { freeNotes } from "../api/free";
import { useDebouncedValue } from "@mantine/hooks";
import { useShallow } from "zustand/react/shallow";
import { memo, useState } from "react";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { useWhy } from "../api/queries";
import { ClipFields } from "../clips/ClipFields";
import { Behind } from "../controls/Behind";
import { TabList } from "../controls/TabList";
import { kindOf, sounds } from "../lanes/kinds";
import { StepTools } from "../lanes/steps/Tools";
import { useSheet } from "../state/sheet";
import { clipOf, laneOf, laneViewOf, placesOf, useApp } from "../state/store";
import type { App } from "../state/app";
import { later } from "../controls/later";
import { Review } from "./Review";
import css from "./Margin.module.css";

const Motion = later(() => import("./motion/Motion").then((m) => m.Motion), 420);
const SoundFields = later(() => import("./SoundFields").then((m) => m.SoundFields), 420);

/** What the margin shows, all of one moment. */
const marginOf = (s: App) => ({
  lane: laneOf(s),
  view: laneViewOf(s),
  selection: s.selection,
  findings: s.view?.findings,
});

/** The margin: what is selected, why it sounds so, and what the review found. It may come a frame after the sheet. */
export function Margin() {
  return <Behind value={useApp(useShallow(marginOf))}>{(late) => <MarginOf {...late} />}</Behind>;
}

const MarginOf = memo(function MarginOf({ lane, view, selection, findings }: ReturnType<typeof marginOf>) {
  const reading = useSheet((s) => s.reading);
  const open = useApp((s) => clipOf(s)?.id);
  const [part, setPart] = useState<"steps" | "motion" | "sound">("steps");
  const kind = lane && kindOf(lane);
  return (
    <aside className={css.margin} aria-label="Margin">
      <div className={css.scroll}>
        {lane && view && kind && (
          <section>
            <h2 className="visually-hidden">{lane.name}</h2>
            <TabList
              label="What the margin shows"
              className={css.tabs}
              value={part === "sound" && !sounds(lane) ? "steps" : part}
              onChange={(next) => setPart(next as typeof part)}
              items={[
                { value: "steps", label: freeNotes(lane) ? "Notes" : "Steps" },
                { value: "motion", label: "Motion" },
                ...(sounds(lane) ? [{ value: "sound", label: `Sound of ${lane.name}` }] : []),
              ]}
            />
            {part === "motion" ? (
              <Motion key={lane.id} lane={lane} view={view} />
            ) : part === "sound" && sounds(lane) ? (
              <SoundFields key={lane.id} lane={lane} />
            ) : (
              <>
                {kind.Board && <kind.Board lane={lane} view={view} />}
                {!placesOf(lane) ? null : selection.length ? (
                  <kind.Fields lane={lane} view={view} selection={selection} />
                ) : (
                  <p className={css.hint}>
                    Nothing is selected in {lane.name}. {kind.hint}
                  </p>
                )}
                <Drew view={view} selection={selection} />
                {kind.tools === "own" && <kind.Tools lane={lane} view={view} />}
                {placesOf(lane) > 0 && kind.tools !== "own" && (
                  <StepTools count={selection.length} own={<kind.Tools lane={lane} view={view} />} />
                )}
              </>
            )}
          </section>
        )}
        <Why />
        <Review findings={findings ?? []} agreement={<Agreement />} />
      </div>
      {open && !reading && <ClipFields key={open} />}
    </aside>
  );
});

/** What the one step that is selected drew, round by round. */
function Drew({ view, selection }: { view: LaneView; selection: number[] }) {
  const [only, more] = selection;
  if (!view.drawn.length || only === undefined || more !== undefined) return null;
  const words = view.slots.flatMap((step, k) => (step === only ? [`${view.rounds[k]! + 1}: ${view.drawn[k]}`] : []));
  return (
    <p className={css.hint} data-testid="drew">
      Drew, by round – {words.slice(0, 6).join("; ")}
      {words.length > 6 ? " …" : ""}
    </p>
  );
}

/** The note that a step sounds in: its own, or one that a tie runs through it. */
function noteOf(view: LaneView, step: number): number {
  const own = view.notes.findIndex((n) => n.step === step);
  if (own >= 0) return own;
  const at = view.slotAt[view.slots.indexOf(step)];
  return at === undefined ? -1 : view.notes.findIndex((n) => n.at <= at && n.at + n.length > at);
}

/** A lane of which it can be told why it sounds so: one that is kept, and not only tried. */
const there = (s: App, lane: string) => (s.tried ? undefined : s.view?.lanes.find((l) => l.id === lane));

/** Why the hovered note, or else the selected one, is there. */
function Why() {
  const hover = useApp((s) => (s.hover && there(s, s.hover.lane)?.notes[s.hover.note] ? s.hover : null));
  const id = useApp((s) => s.id);
  const clip = useApp((s) => s.clip);
  const version = useApp((s) => s.version);
  const lane = useApp((s) => s.lane);
  const selected = useApp((s) => {
    const view = there(s, s.lane);
    const [only, more] = s.selection;
    return view && only !== undefined && more === undefined ? noteOf(view, only) : -1;
  });
  // It is asked once all is at rest, and not of each note that is passed or of each edit of many.
  const [asked] = useDebouncedValue(
    { id, version, clip, ...(hover ?? (selected >= 0 ? { lane, note: selected } : { lane: "", note: -1 })) },
    120,
  );
  const { data, error } = useWhy(
    asked.id,
    asked.version,
    asked.clip,
    asked.note < 0 ? null : { lane: asked.lane, note: asked.note },
  );
  return (
    <section className={css.why}>
      <h2>Why it sounds so</h2>
      <p data-testid="why">{error?.message ?? data?.text ?? "Point at a note to read which rules made it."}</p>
    </section>
  );
}

/** How far each line keeps to the chords. */
function Agreement() {
  const agreement = useApp((s) => s.view?.harmony?.agreement);
  const lanes = useApp((s) => clipOf(s)?.lanes) ?? [];
  const told = lanes.filter((l) => agreement?.[l.id]);
  if (!agreement || !told.length) return null;
  return (
    <table className={css.agreement} aria-label="Share of chord tones">
      <thead>
        <tr>
          <th>Chord tones</th>
          <th>of its notes</th>
          <th>of its time</th>
        </tr>
      </thead>
      <tbody>
        {told.map((l) => (
          <tr key={l.id}>
            <td>{l.name}</td>
            <td>{agreement[l.id]!.notes} %</td>
            <td>{agreement[l.id]!.time} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
