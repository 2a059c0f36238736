import type { Lane as LaneDoc, Sound } from "../api/gen/piece.gen";
import { NumberBox } from "../app/NumberBox";
import { setLane } from "../state/actions";
import { useApp } from "../state/store";
import { Choice } from "../sheet/LaneHeader";
import css from "./Margin.module.css";

const sliders: [keyof Omit<Sound, "voice" | "wave">, string][] = [
  ["level", "Level"], ["cutoff", "Cutoff"], ["resonance", "Resonance"], ["envelope", "Envelope"], ["decay", "Decay"], ["drive", "Drive"], ["delay", "Echo"],
];

/** The built-in voice of a lane; it is saved with the lane and never in a file. */
export function SoundFields({ lane }: { lane: LaneDoc }) {
  const words = useApp((s) => s.words);
  const set = (part: Partial<Sound>) => setLane(lane.id, { sound: part });
  return (
    <>
      <div className={css.sliders}>
        <label htmlFor="voice">Voice</label>
        <Choice id="voice" label="Voice" value={lane.sound.voice} all={words?.voices ?? []} onChange={(voice) => set({ voice })} />
        <label htmlFor="wave">Wave</label>
        <Choice id="wave" label="Wave" value={lane.sound.wave} all={words?.waves ?? []} onChange={(wave) => set({ wave })} />
        {sliders.map(([name, label]) => [
          <label key={`${name}l`} htmlFor={`s-${name}`}>{label}</label>,
          <input key={`${lane.id} ${name} ${lane.sound[name]}`} id={`s-${name}`} type="range" min={0} max={100} defaultValue={lane.sound[name]}
            onPointerUp={(e) => set({ [name]: Number(e.currentTarget.value) })}
            onKeyUp={(e) => Number(e.currentTarget.value) !== lane.sound[name] && set({ [name]: Number(e.currentTarget.value) })} />,
          <NumberBox key={name} label={`${label} in percent`} value={lane.sound[name]} low={0} high={100} onChange={(v) => set({ [name]: v })} />,
        ])}
      </div>
      <p className={css.hint}>A stand-in for your own synth, to judge the line by. The MIDI file carries notes, bends and portamento, not this sound.</p>
    </>
  );
}
