import { Choice } from "../../controls/Choice";
import { ChoiceField, NumberField } from "../../controls/Field";
import { facts } from "../../api/facts";
import { NumberBox } from "../../controls/NumberBox";
import { setLane } from "../../state/actions";
import { useSheet } from "../../state/sheet";
import { clipOf, useApp } from "../../state/store";
import { sounds } from "../kinds";
import type { LaneProps } from "../kind";
import { OctaveField, PitchedFields } from "../steps/PitchedFields";
import { useHands } from "./state";
import type { NotesLane } from "./notes";
import { BAR, BEAT } from "../../api/default";

const fact = facts.lane.notes;

/** What free notes set daily: the grid that hands put them on, how many sound at once, the octave. */
export function Daily({ lane }: LaneProps<NotesLane>) {
  const snaps = useApp((s) => s.words?.snaps) ?? [];
  const { snap, setSnap } = useHands();
  const against = useSheet((s) => s.against);
  const others = useApp((s) => clipOf(s)?.lanes)?.filter((l) => l.id !== lane.id && sounds(l)) ?? [];
  const id = (name: string) => `${name}-${lane.id}`;
  return (
    <>
      <label htmlFor={id("snap")} title="The grid that new and moved notes are put on">
        Grid
      </label>
      <Choice
        id={id("snap")}
        label={`Grid of ${lane.name}`}
        value={snap}
        all={["", ...snaps.map((s) => s.rate)]}
        words={{ "": "none" }}
        onChange={setSnap}
      />
      {others.length > 0 && (
        <>
          <label
            htmlFor={id("stems")}
            title="Another lane's onsets, to which all handles snap beside the grid; they stand as stems through all lanes"
          >
            Stems
          </label>
          <Choice
            id={id("stems")}
            label={`Lane whose onsets ${lane.name} snaps to`}
            value={against}
            all={["", ...others.map((l) => l.id)]}
            words={{ "": "none", ...Object.fromEntries(others.map((l) => [l.id, l.name])) }}
            onChange={(next) => useSheet.getState().set({ against: next })}
          />
        </>
      )}
      <ChoiceField
        id={id("voices")}
        fact={fact.voices}
        label={`Voices of ${lane.name}`}
        value={lane.voices}
        onChange={(voices) =>
          setLane(
            lane.id,
            voices === "one" && lane.glide.mode === "mpe" ? { voices, glide: { mode: "bend" } } : { voices },
          )
        }
      />
      <OctaveField lane={lane} />
    </>
  );
}

/** The loop, and how pitches are locked. */
export function Header({ lane, view }: LaneProps<NotesLane>) {
  const id = (name: string) => `${name}-${lane.id}`;
  const set = (patch: Record<string, unknown>) => setLane(lane.id, patch);
  const loop = view.free ?? { start: 0, length: BAR };
  const beat = useApp((s) => s.view?.beatTicks) ?? BEAT;
  const change = (part: { start?: number; length?: number }) =>
    set({ loop: { start: loop.start, length: loop.length, ...part } });
  return (
    <>
      <span title={fact.loop.doc}>Loop</span>
      <span style={{ display: "flex", gap: 4 }}>
        <NumberBox
          label={`Loop start of ${lane.name}, in beats`}
          value={Math.round((loop.start / beat) * 100) / 100}
          low={0}
          high={9999}
          onChange={(beats) => change({ start: Math.round(beats * beat) })}
        />
        <NumberBox
          label={`Loop length of ${lane.name}, in beats`}
          value={Math.round((loop.length / beat) * 100) / 100}
          low={1}
          high={9999}
          onChange={(beats) => change({ length: Math.round(beats * beat) })}
        />
      </span>
      {lane.loop && (
        <>
          <span />
          <button onClick={() => set({ loop: null })}>As long as the clip</button>
        </>
      )}
      <PitchedFields lane={lane} />
      {lane.voices === "one" && (
        <NumberField
          id={id("range")}
          fact={fact.glide.fields.range}
          label={`Bend range of ${lane.name}`}
          value={lane.glide.range}
          onChange={(range) => set({ glide: { ...lane.glide, range } })}
        />
      )}
    </>
  );
}
