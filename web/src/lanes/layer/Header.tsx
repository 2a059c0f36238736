import { Choice } from "../../controls/Choice";
import { facts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { setLane } from "../../state/actions";
import { clipOf, useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { LockFields } from "../steps/PitchedFields";
import type { LayerLane } from "./layer";

const fact = facts.lane.layer;
const numbers = ["octave", "degrees", "semitones", "velocity", "gate"] as const;
const keeps = { all: "all notes", accents: "accents", beats: "on the beats", chord: "chord tones", nth: "every n-th" };

/** What a layer plays, and how it moves it. */
export function Daily({ lane }: LaneProps<LayerLane>) {
  const lanes = (useApp(clipOf)?.lanes ?? []).filter((l) => l.kind !== "control" && l.id !== lane.id);
  const id = (name: string) => `${name}-${lane.id}`;
  const set = (patch: Record<string, unknown>) => setLane(lane.id, patch);
  return (
    <>
      <label htmlFor={id("of")} title={fact.of.doc}>
        Layer of
      </label>
      <Choice
        id={id("of")}
        label={`Lane that ${lane.name} plays`}
        value={lane.of}
        all={lanes.map((l) => l.id)}
        words={Object.fromEntries(lanes.map((l) => [l.id, l.name]))}
        onChange={(to) => set({ of: to })}
      />
      <Numbers lane={lane} of={["octave", "degrees", "semitones"]} />
    </>
  );
}

function Numbers({ lane, of }: { lane: LayerLane; of: readonly (typeof numbers)[number][] }) {
  return of.map((field) => (
    <NumberField
      key={field}
      id={`${field}-${lane.id}`}
      fact={fact[field]}
      label={`${fact[field].title} of ${lane.name}`}
      value={lane[field]}
      onChange={(v) => setLane(lane.id, { [field]: v })}
    />
  ));
}

/** Which notes it keeps, and how it strikes them. */
export function Header({ lane }: LaneProps<LayerLane>) {
  const of = ` of ${lane.name}`;
  const id = (name: string) => `${name}-${lane.id}`;
  const set = (patch: Record<string, unknown>) => setLane(lane.id, patch);
  const keep = typeof lane.keep === "string" ? lane.keep : "nth";
  return (
    <>
      <Numbers lane={lane} of={["velocity", "gate"]} />
      <label htmlFor={id("keep")} title={fact.keep.doc}>
        Keeps
      </label>
      <Choice
        id={id("keep")}
        label={`Notes that ${lane.name} keeps`}
        value={keep}
        all={Object.keys(keeps)}
        words={keeps}
        onChange={(to) => set({ keep: to === "nth" ? { every: 2, from: 1 } : to })}
      />
      {typeof lane.keep !== "string" && (
        <>
          <NumberField
            id={id("every")}
            fact={{ title: "Every", doc: "Of so many notes one.", low: 1, high: 64 }}
            label={`Every so many notes${of}`}
            value={lane.keep.every}
            onChange={(every) => set({ keep: { ...nth(lane), every } })}
          />
          <NumberField
            id={id("first")}
            fact={{ title: "From", doc: "The first that is kept.", low: 1, high: 64 }}
            label={`First note kept${of}`}
            value={lane.keep.from}
            onChange={(from) => set({ keep: { ...nth(lane), from } })}
          />
        </>
      )}
      <LockFields lane={lane} />
    </>
  );
}

const nth = (lane: LayerLane) => (typeof lane.keep === "string" ? { every: 2, from: 1 } : lane.keep);
