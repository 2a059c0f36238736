import { facts } from "../../api/facts";
import { Choice } from "../../controls/Choice";
import { NumberField } from "../../controls/Field";
import { setLane } from "../../state/actions";
import { useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { PitchedFields } from "../steps/PitchedFields";
import { Move } from "../steps/Tools";
import type { PulseLane } from "./pulse";

const fact = facts.lane.pulse;

/** What a pulse lane sets beside what all lanes do, and is used daily: a note or a drum, or a
 * pitch of the key. */
export function Daily({ lane }: LaneProps<PulseLane>) {
  const drums = useApp((s) => s.words?.drums) ?? [];
  const of = ` of ${lane.name}`;
  const id = (name: string) => `${name}-${lane.id}`;
  const set = (patch: Record<string, unknown>) => setLane(lane.id, patch);
  if (lane.pitch) {
    const { pitch } = lane;
    const place = fact.pitch.fields;
    return (
      <>
        <NumberField
          id={id("degree")}
          fact={place.degree}
          label={`Degree${of}`}
          value={pitch.degree}
          onChange={(degree) => set({ pitch: { ...pitch, degree } })}
        />
        <NumberField
          id={id("oct")}
          fact={fact.octave}
          label={`Octave${of}`}
          value={lane.octave + pitch.octave}
          onChange={(octave) => set({ pitch: { ...pitch, octave: 0 }, octave })}
        />
      </>
    );
  }
  const named = drums.some((d) => d.note === lane.note);
  const words = Object.fromEntries([["", "another note"], ...drums.map((d) => [String(d.note), d.name])]);
  return (
    <>
      <label htmlFor={id("drum")}>Drum</label>
      <Choice
        id={id("drum")}
        label={`Drum${of}`}
        value={named ? String(lane.note) : ""}
        all={Object.keys(words)}
        words={words}
        onChange={(note) => note && set({ note: Number(note) })}
      />
      <NumberField
        id={id("note")}
        fact={fact.note}
        label={`Note${of}`}
        value={lane.note}
        onChange={(note) => set({ note })}
      />
    </>
  );
}

/** A row has one pitch: there is none to fill. */
export function Fills(): null {
  return null;
}

/** Moves the whole row in pitch. */
export function Tools() {
  return <Move title="Row" unit="semitone" name="The row a semitone" />;
}

/** How its pitch is locked, where it has one. */
export function Header({ lane }: LaneProps<PulseLane>) {
  return lane.pitch && <PitchedFields lane={lane} />;
}
