import { facts } from "../../api/facts";
import { Choice } from "../../controls/Choice";
import { ChoiceField, NumberField } from "../../controls/Field";
import { NumberBox } from "../../controls/NumberBox";
import { TextBox } from "../../controls/TextBox";
import { setLane } from "../../state/actions";
import { clipOf, placesOf, useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { OctaveField, PitchedFields } from "../steps/PitchedFields";
import css from "./phrase.module.css";
import { OrderChooser } from "./OrderChooser";
import type { PhraseLane } from "./phrase";
import { readTones, writeTones, wrongTones } from "./tones";

const fact = facts.lane.phrase;

const setterOf = (lane: PhraseLane) => ({
  of: ` of ${lane.name}`,
  id: (name: string) => `${name}-${lane.id}`,
  set: (patch: Record<string, unknown>) => setLane(lane.id, patch),
});

/** What a phrase sets beside what all lanes do: what it walks, which is used daily. */
export function Daily({ lane }: LaneProps<PhraseLane>) {
  const { of, id, set } = setterOf(lane);
  const own = lane.source === "own";
  return (
    <>
      <OctaveField lane={lane} />
      <span>Order</span>
      <OrderChooser lane={lane} />
      <ChoiceField
        id={id("source")}
        fact={{ ...fact.source, title: "Tones" }}
        label={`Tones${of}`}
        value={lane.source}
        words={{ harmony: "the chord’s", own: "its own" }}
        onChange={(source) =>
          set(
            source === "own" && lane.tones.length === 0
              ? { source, tones: [{ degree: 1 }, { degree: 3 }, { degree: 5 }] }
              : { source },
          )
        }
      />
      {own && (
        <>
          <label htmlFor={id("tones")}>Degrees</label>
          <TextBox
            id={id("tones")}
            label={`Degrees${of}`}
            value={writeTones(lane.tones)}
            check={wrongTones}
            onChange={(text) => set({ tones: readTones(text) })}
          />
        </>
      )}
    </>
  );
}

/** How it walks. */
export function Header({ lane }: LaneProps<PhraseLane>) {
  const { of, id, set } = setterOf(lane);
  const others =
    useApp((s) => clipOf(s)?.lanes)?.filter((l) => l.id !== lane.id && l.kind !== "control" && placesOf(l) > 0) ?? [];
  return (
    <>
      <ChoiceField
        id={id("walk")}
        fact={fact.walk}
        label={`Walk${of}`}
        value={lane.walk}
        onChange={(walk) => set({ walk })}
      />
      <NumberField
        id={id("span")}
        fact={fact.span}
        label={`Span${of}`}
        value={lane.span}
        onChange={(span) => set({ span })}
      />
      <label htmlFor={id("leap")}>Leap</label>
      <span className={css.pair}>
        <NumberBox
          id={id("leap")}
          label={`Leap${of}`}
          value={lane.leap.by}
          low={fact.leap.fields.by.low}
          high={fact.leap.fields.by.high}
          onChange={(by) => set({ leap: { by } })}
        />
        <Choice
          label={`Unit of the leap${of}`}
          value={lane.leap.in}
          all={fact.leap.fields.in.choices}
          onChange={(unit) => set({ leap: { in: unit } })}
        />
      </span>
      <NumberField
        id={id("voices")}
        fact={fact.voices}
        label={`Voices${of}`}
        value={lane.voices}
        onChange={(voices) => set({ voices })}
      />
      <ChoiceField
        id={id("repeats")}
        fact={{ ...fact.repeats, title: "Ratchet" }}
        label={`Ratchets${of}`}
        value={lane.repeats}
        words={{ tone: "repeats", walk: "walks" }}
        onChange={(repeats) => set({ repeats })}
      />
      <label htmlFor={id("pedal")}>Pedal</label>
      <span className={css.pair}>
        <Choice
          id={id("pedal")}
          label={`Pedal${of}`}
          value={lane.pedal?.tone ?? "none"}
          all={["none", ...fact.pedal.fields.tone.choices]}
          onChange={(tone) => set({ pedal: tone === "none" ? null : { ...lane.pedal, tone } })}
        />
        {lane.pedal && (
          <NumberBox
            label={`Octave of the pedal${of}`}
            value={lane.pedal.octave}
            low={fact.pedal.fields.octave.low}
            high={fact.pedal.fields.octave.high}
            onChange={(octave) => set({ pedal: { ...lane.pedal, octave } })}
          />
        )}
      </span>
      <label htmlFor={id("rhythm")} title={fact.rhythm.doc}>
        Rhythm
      </label>
      <Choice
        id={id("rhythm")}
        label={`Rhythm${of}`}
        value={lane.rhythm?.lane ?? ""}
        all={["", ...others.map((l) => l.id)]}
        words={{ "": "its own rate", ...Object.fromEntries(others.map((l) => [l.id, `of ${l.name}`])) }}
        onChange={(other) => set({ rhythm: other ? { lane: other } : null })}
      />
      <PitchedFields lane={lane} />
    </>
  );
}
