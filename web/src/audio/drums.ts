import * as Tone from "tone";

/** One drum of the kit: a sound that is struck, tuned by so many semitones. */
export interface Drum {
  hit(time: number, force: number, tuned: number): void;
  dispose(): void;
}

/** A struck skin: a falling tone. */
function skin(out: Tone.InputNode, hertz: number, octaves: number, decay: number): Drum {
  const synth = new Tone.MembraneSynth({
    pitchDecay: 0.03,
    octaves,
    envelope: { attack: 0.001, decay, sustain: 0, release: 0.1 },
  });
  synth.connect(out);
  return {
    hit: (time, force, tuned) => synth.triggerAttackRelease(hertz * 2 ** (tuned / 12), decay, time, force),
    dispose: () => synth.dispose(),
  };
}

/** Filtered noise: brushes, hats, claps. */
function noise(
  out: Tone.InputNode,
  kind: "highpass" | "bandpass",
  hertz: number,
  decay: number,
  level: number,
  strokes = 1,
): Drum {
  const synth = new Tone.NoiseSynth({ noise: { type: "white" }, envelope: { attack: 0.001, decay, sustain: 0 } });
  const filter = new Tone.Filter(hertz, kind);
  const gain = new Tone.Gain(level);
  synth.chain(filter, gain, out);
  return {
    hit: (time, force, tuned) => {
      filter.frequency.setValueAtTime(Math.min(hertz * 2 ** (tuned / 12), 18000), time);
      for (let k = 0; k < strokes; k++)
        synth.triggerAttackRelease(decay, time + k * 0.011, force * (k === strokes - 1 ? 1 : 0.6));
    },
    dispose: () => [synth, filter, gain].forEach((part) => part.dispose()),
  };
}

/** A short tone: rim and click. */
function tick(out: Tone.InputNode, hertz: number, decay: number, level: number): Drum {
  const synth = new Tone.Synth({
    oscillator: { type: "triangle" },
    envelope: { attack: 0.0005, decay, sustain: 0, release: 0.02 },
  });
  const gain = new Tone.Gain(level);
  synth.chain(gain, out);
  return {
    hit: (time, force, tuned) => synth.triggerAttackRelease(hertz * 2 ** (tuned / 12), decay, time, force),
    dispose: () => [synth, gain].forEach((part) => part.dispose()),
  };
}

/** The drums of the kit, at their usual MIDI numbers; others sound like the nearest
 * of them, tuned. */
export const drums: Readonly<Record<number, (out: Tone.InputNode) => Drum>> = {
  33: (out) => tick(out, 1900, 0.03, 0.5),
  36: (out) => skin(out, 33, 5, 0.32),
  37: (out) => tick(out, 820, 0.05, 0.9),
  38: (out) => noise(out, "bandpass", 1400, 0.14, 0.9),
  39: (out) => noise(out, "bandpass", 1100, 0.12, 0.9, 3),
  42: (out) => noise(out, "highpass", 7000, 0.035, 0.45),
  45: (out) => skin(out, 98, 2, 0.28),
  46: (out) => noise(out, "highpass", 6500, 0.28, 0.4),
  49: (out) => noise(out, "highpass", 4200, 0.9, 0.4),
};
