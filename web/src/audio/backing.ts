import { PPQ } from "../api/gen/view.gen";
import type { Clip as ClipView } from "../api/gen/view.gen";
import type { Sound } from "../api/gen/piece.gen";
import { voiceSounds } from "../api/gen/schema.gen";
import type { Voice } from "./voices";

import { CLICK, FIRST_BEAT } from "../synth/drums";

/** The pattern that counts the beats of the bar. */
const COUNT = "click";

const KICK = 36;
const SNARE = 38;
const HAT = 42;

/** The velocity of a hit at full force. */
const FULL = 120;

/** What the beat and the clicks sound with. */
export const drumKit: Sound = { ...voiceSounds.kit, level: 60 };

/** Strikes a click that counts a beat, the first of a bar higher and louder. */
export function click(voice: Voice, time: number, first: boolean): void {
  voice.strike(time, time + 0.05, first ? FIRST_BEAT : CLICK, first ? 112 : 90);
}

/** A hit of a beat: where in the bar, in quarters, on which drum, how hard. */
type Hit = readonly [quarter: number, drum: number, force: number];

const eighths = [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5];

/** The beats, as places in a bar of four quarters; other meters take as much of
 * it as fits. To add a beat, add it here and to the document's list. */
const beats: Readonly<Record<string, readonly Hit[]>> = {
  four: [
    ...[0, 1, 2, 3].flatMap((q): Hit[] => [
      [q, KICK, 1],
      [q + 0.5, HAT, 0.7],
      [q + 0.25, HAT, 0.25],
      [q + 0.75, HAT, 0.3],
    ]),
    [1, SNARE, 0.5],
    [3, SNARE, 0.55],
  ],
  half: [[0, KICK, 1], [1.75, KICK, 0.6], [2, SNARE, 0.9], ...eighths.map((q): Hit => [q, HAT, q % 1 ? 0.3 : 0.55])],
  broken: [
    [0, KICK, 1],
    [1, SNARE, 0.85],
    [1.75, KICK, 0.55],
    [2.5, KICK, 0.9],
    [2.25, SNARE, 0.2],
    [3, SNARE, 0.9],
    [3.75, SNARE, 0.25],
    ...eighths.map((q): Hit => [q, HAT, q % 1 ? 0.5 : 0.35]),
  ],
};

/** The stand-in drum machine under a clip. */
export class Backing {
  constructor(private readonly voice: Voice) {}

  /** Schedules the hits, as the groove moves them, from tick low up to high of the clip. */
  schedule(
    pattern: string,
    level: number,
    { barTicks, beatTicks, groove }: Pick<ClipView, "barTicks" | "beatTicks" | "groove">,
    low: number,
    high: number,
    timeAt: (tick: number) => number,
  ): void {
    const hits = beats[pattern];
    if (!hits && pattern !== COUNT) return;
    this.voice.set({ ...drumKit, level });
    if (!hits) {
      for (let tick = Math.ceil(low / beatTicks) * beatTicks; tick < high; tick += beatTicks)
        click(this.voice, timeAt(tick), tick % barTicks === 0);
      return;
    }
    // A hit may fall a little before its bar.
    for (let bar = Math.floor(low / barTicks); bar * barTicks < high + PPQ; bar++) {
      for (const [quarter, drum, force] of hits) {
        const feel = groove[quarter * 4];
        if (quarter * PPQ >= barTicks || !feel) continue;
        const tick = Math.max(bar * barTicks + feel.at, 0);
        if (tick < low || tick >= high) continue;
        const velocity = Math.min(Math.max(Math.round(force * FULL + feel.velocity), 6), 127);
        this.voice.strike(timeAt(tick), timeAt(tick) + 0.05, drum, velocity);
      }
    }
  }
}
