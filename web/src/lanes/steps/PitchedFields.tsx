import { facts } from "../../api/facts";
import { ChoiceField, NumberField } from "../../controls/Field";
import { setLane } from "../../state/actions";

/** A lane whose steps have pitches of the key. */
interface Pitched {
  id: string;
  name: string;
  kind: keyof typeof facts.lane;
  octave: number;
  lock: string;
  snap: string;
  follow: string;
  roots: string;
}

/** How a lane's pitches are locked. */
export function LockFields({ lane }: { lane: Pick<Pitched, "id" | "name" | "lock" | "snap"> }) {
  const fact = facts.lane.line;
  return (["lock", "snap"] as const).map((field) => (
    <ChoiceField
      key={field}
      id={`${field}-${lane.id}`}
      fact={fact[field]}
      label={`${fact[field].title} of ${lane.name}`}
      value={lane[field]}
      onChange={(word) => setLane(lane.id, { [field]: word })}
    />
  ));
}

/** What every lane with pitches sets of them: how they are locked, and what their
 * degrees are counted from. */
export function PitchedFields({ lane }: { lane: Pitched }) {
  const fact = facts.lane.line;
  return (
    <>
      <LockFields lane={lane} />
      <ChoiceField
        id={`follow-${lane.id}`}
        fact={fact.follow}
        label={`Follow of ${lane.name}`}
        value={lane.follow}
        onChange={(follow) => setLane(lane.id, { follow })}
      />
      {lane.follow === "root" && (
        <ChoiceField
          id={`roots-${lane.id}`}
          fact={fact.roots}
          label={`Roots of ${lane.name}`}
          value={lane.roots}
          words={{ up: "up from the tonic", near: "near the tonic" }}
          onChange={(roots) => setLane(lane.id, { roots })}
        />
      )}
    </>
  );
}

/** The octave that a lane's degrees are counted in. */
export function OctaveField({ lane }: { lane: Pick<Pitched, "id" | "name" | "octave"> }) {
  return (
    <NumberField
      id={`oct-${lane.id}`}
      fact={facts.lane.line.octave}
      label={`Octave of ${lane.name}`}
      value={lane.octave}
      onChange={(octave) => setLane(lane.id, { octave })}
    />
  );
}
