import { facts } from "../../api/facts";
import { ChoiceField, NumberField } from "../../controls/Field";
import { setLane } from "../../state/actions";
import type { LaneProps } from "../kind";
import { OctaveField, PitchedFields } from "../steps/PitchedFields";
import { Move, Pair } from "../steps/Tools";
import { invert, openOrClose, setVoicing, widen } from "./actions";
import type { ChordsLane } from "./chords";

const voicing = facts.lane.chords.voicing.fields;

/** What a chords lane sets beside what all lanes do: what is used daily, and the rest. */
export function Daily({ lane }: LaneProps<ChordsLane>) {
  return <OctaveField lane={lane} />;
}
export function Header({ lane }: LaneProps<ChordsLane>) {
  const of = ` of ${lane.name}`;
  const id = (name: string) => `${name}-${lane.id}`;
  const smooth = lane.voicing.mode === "smooth";
  return (
    <>
      <ChoiceField
        id={id("voicing")}
        fact={{ ...voicing.mode, title: "Voices" }}
        label={`Voices${of}`}
        value={lane.voicing.mode}
        onChange={(mode) => setVoicing(lane.id, { mode })}
      />
      {smooth && (
        <>
          <NumberField
            id={id("low")}
            fact={voicing.low}
            label={`Lowest of the voices${of}`}
            value={lane.voicing.low}
            onChange={(low) => setVoicing(lane.id, { low })}
          />
          <NumberField
            id={id("high")}
            fact={voicing.high}
            label={`Highest of the voices${of}`}
            value={lane.voicing.high}
            onChange={(high) => setVoicing(lane.id, { high })}
          />
          <ChoiceField
            id={id("bass")}
            fact={{ ...voicing.bass, title: "Lowest" }}
            label={`Lowest tone${of}`}
            value={lane.voicing.bass}
            onChange={(bass) => setVoicing(lane.id, { bass })}
          />
          <ChoiceField
            id={id("clear")}
            fact={{ title: "Prefer", doc: voicing.clear.doc, choices: ["least", "clear"] }}
            label={`What the voices prefer${of}`}
            value={lane.voicing.clear ? "clear" : "least"}
            words={{ least: "smoothest", clear: "clearest" }}
            onChange={(word) => setVoicing(lane.id, { clear: word === "clear" })}
          />
        </>
      )}
      <ChoiceField
        id={id("glides")}
        fact={{ title: "Glides", doc: facts.lane.chords.glide.doc, choices: ["none", "mpe"] }}
        label={`Glides${of}`}
        value={lane.glide ? "mpe" : "none"}
        words={{ none: "none", mpe: "each tone" }}
        onChange={(mode) => setLane(lane.id, { glide: mode === "none" ? null : { mode } })}
      />
      <PitchedFields lane={lane} />
    </>
  );
}

/** Shapes the chords that are selected. */
export function Tools() {
  return (
    <>
      <Move title="Degree" unit="degree" name="A degree" />
      <Move title="Octave" unit="octave" name="An octave" />
      <Pair title="Thirds" less="A third less" more="A third more" run={widen} />
      <Pair title="Invert" less="Invert downwards" more="Invert upwards" run={invert} />
      <button onClick={openOrClose}>Open / close</button>
    </>
  );
}
