import { Button } from "@mantine/core";
import { useState } from "react";
import { addLanes } from "../../state/actions";
import { useApp } from "../../state/store";
import css from "./Add.module.css";

/** What rows to add: a kit of drums, or one for each of some pitches. */
export function Rows({ done }: { done: () => void }) {
  const words = useApp((s) => s.words);
  const view = useApp((s) => s.view);
  const [drums, setDrums] = useState<readonly number[]>(words?.kit ?? []);
  const [pitches, setPitches] = useState<readonly number[]>([]);
  if (!words || !view) return null;
  const turn = (all: readonly number[], one: number) =>
    all.includes(one) ? all.filter((n) => n !== one) : [...all, one];
  const addDrums = () => {
    const rows = words.drums.filter((d) => drums.includes(d.note));
    void addLanes(
      rows.map((d) => ({ kind: "pulse", name: d.name, patch: { note: d.note, channel: words.drumChannel } })),
      false,
    );
    done();
  };
  const addPitches = () => {
    const rows = view.ladder.filter((r) => pitches.includes(r.pitch)).reverse();
    void addLanes(
      rows.map((r) => ({
        kind: "pulse",
        name: r.name,
        patch: { pitch: { degree: r.degree, octave: r.octave, alter: r.alter }, sound: { voice: "pluck" } },
      })),
      false,
    );
    done();
  };
  return (
    <div className={css.rows}>
      <section>
        <h3>A kit</h3>
        <p className="quiet">A row a drum, on channel {words.drumChannel}.</p>
        {words.drums.map((d) => (
          <label key={d.note} className={css.drum}>
            <input type="checkbox" checked={drums.includes(d.note)} onChange={() => setDrums(turn(drums, d.note))} />
            <span>{d.name}</span>
            <span className="mono">{d.note}</span>
          </label>
        ))}
        <Button size="compact-sm" onClick={addDrums} disabled={!drums.length}>
          Add {drums.length} {drums.length === 1 ? "drum" : "drums"}
        </Button>
      </section>
      <section>
        <h3>Rows for pitches</h3>
        <p className="quiet">Pick them on the ladder of {view.key}.</p>
        <div className={css.ladder} role="group" aria-label="Pitches">
          {view.ladder.toReversed().map((r) => (
            <button
              key={r.pitch}
              className={css.rung}
              data-tonic={r.tonic}
              aria-pressed={pitches.includes(r.pitch)}
              onClick={() => setPitches(turn(pitches, r.pitch))}
            >
              {r.name}
            </button>
          ))}
        </div>
        <Button size="compact-sm" onClick={addPitches} disabled={!pitches.length}>
          Add {pitches.length} {pitches.length === 1 ? "row" : "rows"}
        </Button>
      </section>
    </div>
  );
}
