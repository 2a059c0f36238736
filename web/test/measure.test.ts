// @vitest-environment node
import { test } from "vitest";
import { Band } from "../src/synth/band";
import { Master } from "../src/synth/master";
import { RATE, soundOf, strike, timbreOf } from "./listening";

/** Works out seconds of 64 lanes that play sixteenths at 60 bpm, with echo and reverb. */
function play(voice: string, wave: string, many: boolean, seconds: number): void {
  const band = new Band(RATE);
  const master = new Master(RATE);
  for (let k = 0; k < 64; k++) {
    band.tell({
      lane: `l${k}`,
      timbre: timbreOf(soundOf(voice, { wave, delay: 30, reverb: 30 }), many),
    });
    for (const midi of many ? [48, 52, 55, 59] : [48])
      for (let at = 0; at < seconds; at += 0.25) band.tell(strike(at, at + 0.2, midi + (k % 12), 100, `l${k}`));
  }
  const [left, right] = [new Float32Array(128), new Float32Array(128)];
  for (let done = 0; done < seconds * RATE; done += 128) {
    left.fill(0);
    right.fill(0);
    band.render(left, right, 0, 128);
    master.render(left, right);
  }
}

// Prints what share of its time one core needs for 64 lanes. MEASURE=1 npx vitest run test/measure.test.ts
test.runIf(process.env.MEASURE)("64 lanes", { timeout: 120_000 }, () => {
  for (const [voice, wave, many] of [
    ["bass", "saw", false],
    ["pluck", "pulse", false],
    ["lead", "pulse", false],
    ["lead", "pulse", true],
  ] as const) {
    play(voice, wave, many, 1);
    const took = [0, 1, 2].map(() => {
      const before = process.cpuUsage().user;
      play(voice, wave, many, 2);
      return (process.cpuUsage().user - before) / 2e6;
    });
    console.log(
      `64 lanes of ${voice}, ${wave}, ${many ? "chords of four" : "one note"}: ${Math.min(...took).toFixed(2)} of one core`,
    );
  }
});
