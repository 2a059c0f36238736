import { facts } from "../../controls/facts";
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
export function PitchedFields({ lane, octave = true }: { lane: Pitched; octave?: boolean }) {
  const fact = facts.lane.line;
  const of = ` of ${lane.name}`;
  const id = (name: string) => `${name}-${lane.id}`;
  const set = (patch: Partial<Pitched>) => setLane(lane.id, patch);
  return (
    <>
      {octave && (
        <NumberField
          id={id("oct")}
          fact={fact.octave}
          label={`Octave${of}`}
          value={lane.octave}
          onChange={(value) => set({ octave: value })}
        />
      )}
      <LockFields lane={lane} />
      <ChoiceField
        id={id("follow")}
        fact={fact.follow}
        label={`Follow${of}`}
        value={lane.follow}
        onChange={(follow) => set({ follow })}
      />
    </>
  );
}
