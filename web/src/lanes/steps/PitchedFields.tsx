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
      <ChoiceField
        id={id("lock")}
        fact={fact.lock}
        label={`Lock${of}`}
        value={lane.lock}
        onChange={(lock) => set({ lock })}
      />
      <ChoiceField
        id={id("snap")}
        fact={fact.snap}
        label={`Snap${of}`}
        value={lane.snap}
        onChange={(snap) => set({ snap })}
      />
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
