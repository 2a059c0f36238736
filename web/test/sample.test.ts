import { expect, test } from "vitest";
import type { Sound } from "../src/api/gen/piece.gen";
import sample from "../../internal/demo/lantern-regatta.json";
import { hear, loudness, soundOf, strike, timbreOf } from "./listening";

interface Lane {
  id: string;
  kind?: string;
  sound?: Partial<Sound>;
}
const lanes = sample.clips.flatMap((clip) => (clip.lanes as Lane[]).map((lane) => ({ ...lane, clip: clip.id })));

/** How loud keys are together over a second, in LUFS. */
const loud = (sound: Partial<Sound>, keys: readonly number[]) =>
  loudness(
    hear(
      timbreOf(soundOf(sound.voice!, sound), keys.length > 1),
      keys.map((k) => strike(0, 1, k)),
      1,
    ),
  );

test("in the sample a lead stands over the pads", () => {
  const of = (voice: string) => lanes.flatMap((l) => (l.sound?.voice === voice ? [l.sound] : []));
  const pads = of("pad").map((sound) => loud(sound, [54, 57, 61, 64]));
  const leads = of("lead").map((sound) => loud(sound, [69]));
  expect(Math.min(...leads) - Math.max(...pads)).toBeGreaterThan(3);
});
