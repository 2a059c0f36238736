import { useEffect } from "react";
import type { Sound } from "../api/gen/piece.gen";
import type { Lane } from "../api/gen/schema.gen";
import { ChoiceField } from "../controls/Field";
import { laneFact } from "../api/facts";
import { NumberBox } from "../controls/NumberBox";
import { Slider } from "../controls/Slider";
import { voices } from "../audio/voices";
import { isTimed, msOf, type Timed } from "../synth/times";
import { kindOf } from "../lanes/kinds";
import { setLane } from "../state/actions";
import { controllerOf, teachSound, turnedBy, useTurned } from "../input/taught";
import { clipOf, useApp } from "../state/store";
import { keepTurned, leaveTurned, movedOf, turn, useTurning, type Chosen, type Slid } from "../state/turning";
import css from "./Margin.module.css";

/** What belongs together in a sound, each with what it is for. */
const groups: { name: string; help: string; choices?: Chosen[]; fields: Slid[] }[] = [
  {
    name: "What it is",
    help: "The voice, and how loud it stands beside the others.",
    choices: ["voice", "wave"],
    fields: ["width", "level", "pan"],
  },
  {
    name: "How it opens",
    help: "How bright a note is, a ring at the cutoff, and how far it opens when struck.",
    fields: ["cutoff", "resonance", "envelope"],
  },
  {
    name: "How long it lasts",
    help: "How soon a note is there, how soon it falls to what is held, and how soon it is gone. The filter goes with it.",
    fields: ["attack", "decay", "sustain", "release"],
  },
  {
    name: "How it is played",
    help: "How far velocity makes it louder, and brighter: an accent bites.",
    fields: ["touch", "accent", "drive"],
  },
  {
    name: "The room",
    help: "What comes back after a note, in time with the tempo.",
    choices: ["delayRate"],
    fields: ["delay", "feedback", "reverb"],
  },
];

/** What a value of an envelope is, in ms. */
function timeOf(field: Timed, value: number): string {
  const ms = msOf(field, value);
  return ms < 10 ? `${ms.toFixed(1)} ms` : `${Math.round(ms)} ms`;
}

/** The built-in voice of a lane; it is saved with the lane and never in a file. */
export function SoundFields({ lane }: { lane: Lane }) {
  const fact = laneFact.sound.fields;
  useEffect(() => () => keepTurned(), [lane.id]); // a slider that goes while it is held is let go
  const set = (part: Partial<Sound>) => setLane(lane.id, { sound: part });
  const voice = voices[lane.sound.voice];
  return (
    <>
      {groups.map(({ name, help, choices, fields }, g) => {
        const shown = fields.filter((f) => voice?.uses.includes(f) && (f !== "width" || lane.sound.wave === "pulse"));
        const picks = (choices ?? []).filter((f) => f === "voice" || voice?.uses.includes(f));
        if (!shown.length && !picks.length) return null;
        return (
          <fieldset key={name} className={css.group}>
            <legend>{name}</legend>
            <p className={css.help}>{g === 0 && voice ? voice.help : help}</p>
            <div className={css.sliders}>
              {picks.map((f) => (
                <ChoiceField key={f} id={f} fact={fact[f]} value={lane.sound[f]} onChange={(v) => set({ [f]: v })} />
              ))}
              {shown.map((field) => (
                <Slide
                  key={field}
                  field={field}
                  lane={lane.id}
                  value={lane.sound[field]}
                  fact={fact[field]}
                  onChange={(v) => set({ [field]: v })}
                />
              ))}
            </div>
          </fieldset>
        );
      })}
      <Drivers lane={lane} />
      <p className={css.hint}>
        <button type="button" aria-haspopup="dialog" onClick={() => useApp.getState().set({ panel: "ports" })}>
          Where it sounds
        </button>{" "}
        – here, on a MIDI port, or both.
      </p>
      <p className={css.hint}>
        A stand-in for your own instrument, to judge the lane by. The MIDI file carries notes, bends and controllers,
        not this sound.
      </p>
    </>
  );
}

/** The control lanes that move this sound. */
function Drivers({ lane }: { lane: Lane }) {
  const drivers = (useApp(clipOf)?.lanes ?? []).flatMap((l) => {
    const acts = kindOf(l).acts?.(l);
    return acts?.on === lane.id ? [{ id: l.id, text: `${l.name}: ${acts.what}` }] : [];
  });
  if (!drivers.length) return null;
  return (
    <p className={css.hint} data-testid="drivers">
      Driven by{" "}
      {drivers.map((l, i) => (
        <span key={l.id}>
          {i > 0 && ", "}
          {l.text}
        </span>
      ))}
      .
    </p>
  );
}

interface SlideProps {
  field: Slid;
  lane: string;
  value: number;
  fact: { title: string; doc: string; low: number; high: number; unit?: string };
  onChange: (value: number) => void;
}

function Slide({ field, lane, value: kept, fact, onChange }: SlideProps) {
  useApp((s) => s.clip);
  const { teaching } = useTurned();
  const value = useTurning((s) => movedOf(s.all, lane)?.values[field]) ?? kept;
  const controller = controllerOf(turnedBy(), lane, field);
  const learns = teaching?.lane === lane && teaching.field === field;
  return (
    <>
      <span className={css.named}>
        <label htmlFor={`s-${field}`} title={fact.doc}>
          {fact.title}
        </label>
        {isTimed(field) && <output htmlFor={`s-${field}`}>{timeOf(field, value)}</output>}
      </span>
      <Slider
        id={`s-${field}`}
        low={fact.low}
        high={fact.high}
        value={value}
        onMove={(next) => turn(lane, field, next)}
        onLet={keepTurned}
        onLeave={() => {
          const moved = movedOf(useTurning.getState().all, lane);
          if (moved) leaveTurned([moved]);
          return moved !== undefined;
        }}
      />
      <span className={css.taught}>
        <NumberBox
          label={`${fact.title} ${fact.unit === "%" ? "in percent" : "as a number"}`}
          value={value}
          low={fact.low}
          high={fact.high}
          onChange={onChange}
        />
        <button
          type="button"
          aria-pressed={learns}
          aria-label={
            controller === undefined
              ? `Teach ${fact.title} a CC`
              : `${controller} moves ${fact.title}; teach it another controller`
          }
          title={
            controller === undefined ? "The next controller of a device moves it" : `Controller ${controller} moves it`
          }
          onClick={() => teachSound(lane, field)}
        >
          {learns ? "…" : (controller ?? "CC")}
        </button>
      </span>
    </>
  );
}
