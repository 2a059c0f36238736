import * as Tone from "tone";
import { PPQ } from "../api/gen/view.gen";

type Drum = "kick" | "snare" | "hat";

/** The beats, as places in a bar of four quarters; other meters take as much of
 * it as fits. To add a beat, add it here and to the document's list. */
const beats: Record<string, [number, Drum, number][]> = {
  four: [0, 1, 2, 3].flatMap((q): [number, Drum, number][] => [[q, "kick", 1], [q + 0.5, "hat", 0.7], [q + 0.25, "hat", 0.25], [q + 0.75, "hat", 0.3]]).concat([[1, "snare", 0.5], [3, "snare", 0.55]]),
  half: [[0, "kick", 1], [1.75, "kick", 0.6], [2, "snare", 0.9], ...[0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5].map((q): [number, Drum, number] => [q, "hat", q % 1 ? 0.3 : 0.55])],
  broken: [[0, "kick", 1], [1, "snare", 0.85], [1.75, "kick", 0.55], [2.5, "kick", 0.9], [2.25, "snare", 0.2], [3, "snare", 0.9], [3.75, "snare", 0.25], ...[0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5].map((q): [number, Drum, number] => [q, "hat", q % 1 ? 0.5 : 0.35])],
};

/** The stand-in drum machine under a clip. */
export class Drums {
  private readonly level = new Tone.Gain(0.5);
  private readonly kick = new Tone.MembraneSynth({ pitchDecay: 0.03, octaves: 5, envelope: { attack: 0.001, decay: 0.32, sustain: 0, release: 0.1 } });
  private readonly snare = new Tone.NoiseSynth({ noise: { type: "white" }, envelope: { attack: 0.001, decay: 0.14, sustain: 0 } });
  private readonly hat = new Tone.NoiseSynth({ noise: { type: "white" }, envelope: { attack: 0.001, decay: 0.035, sustain: 0 } });
  private readonly last: Record<Drum, number> = { kick: 0, snare: 0, hat: 0 };

  constructor(out: Tone.InputNode) {
    this.kick.connect(this.level);
    this.snare.chain(new Tone.Filter(1400, "bandpass"), new Tone.Gain(0.9), this.level);
    this.hat.chain(new Tone.Filter(7000, "highpass"), new Tone.Gain(0.45), this.level);
    this.level.connect(out);
  }

  /** Schedules the hits from tick low up to high of the clip. */
  schedule(pattern: string, level: number, barTicks: number, low: number, high: number, timeAt: (tick: number) => number): void {
    const hits = beats[pattern];
    if (!hits) return;
    this.level.gain.rampTo((level / 100) ** 1.5 * 0.8, 0.02);
    for (let bar = Math.floor(low / barTicks); bar * barTicks < high; bar++) {
      for (const [quarter, drum, force] of hits) {
        const tick = bar * barTicks + quarter * PPQ;
        if (quarter * PPQ >= barTicks || tick < low || tick >= high) continue;
        // A source takes its starts in strictly rising order.
        const time = Math.max(timeAt(tick), this.last[drum] + 0.001);
        this.last[drum] = time;
        if (drum === "kick") this.kick.triggerAttackRelease("C1", 0.2, time, force);
        else this[drum].triggerAttackRelease(0.1, time, force);
      }
    }
  }
}
