import { describe, expect, test } from "vitest";
import type { Sound } from "../src/api/gen/piece.gen";
import { bodies } from "../src/synth/bodies";
import { msOf } from "../src/synth/times";
import {
  act,
  control,
  decibels,
  hear,
  hertzOf,
  levels,
  lineAt,
  listen,
  loudness,
  part,
  peak,
  RATE,
  rms,
  soundOf,
  spectrum,
  strike,
  timbreOf,
} from "./listening";

const names = Object.keys(bodies);
/** Voices whose oscillator is chosen, with each wave, and the others. */
const tones = names.flatMap((voice) =>
  bodies[voice]!.oscillator.of === "chosen"
    ? ["saw", "pulse", "triangle"].map((wave) => [voice, wave] as const)
    : [[voice, "saw"] as const],
);

/** A note of 400 ms at C3 (48), as loud as a voice is by default. */
const note = (voice: string, other: Partial<Sound> = {}, many = false, keys = [48], velocity = 100) =>
  hear(
    timbreOf(soundOf(voice, other), many),
    keys.map((midi) => strike(0, 0.4, midi, velocity)),
    0.5,
  );
const loud = (of: ReturnType<typeof note>) => loudness(of, 0, 0.4);

/** A tone that holds. */
const held = (voice: string, other: Partial<Sound>, midi: number, seconds: number) =>
  hear(timbreOf(soundOf(voice, { sustain: 100, attack: 0, decay: 0, ...other })), [strike(0, 9, midi)], seconds).left;

describe("balance", () => {
  const usual = loud(note("bass"));

  test.each(names)("%s is as loud as the others, in every kind of lane, and a chord is little louder", (voice) => {
    const one = loud(note(voice));
    expect(Math.abs(one - usual)).toBeLessThan(2);
    expect(Math.abs(loud(note(voice, {}, true)) - one)).toBeLessThan(0.1);
    const four = loud(note(voice, {}, true, [48, 52, 55, 59])) - one;
    expect(four).toBeGreaterThan(1);
    expect(four).toBeLessThan(6);
  });

  test.each([
    ["click", 33, -4, 4],
    ["rim", 37, -4, 4],
    ["snare", 38, -4, 4],
    ["clap", 39, -4, 4],
    ["closed hat", 42, -8, -6],
    ["pedal hat", 44, -8, -6],
    ["tom", 45, -4, 4],
    ["open hat", 46, -8, -6],
    ["cymbal", 49, -4, 4],
  ])("the %s of the kit lies where it is wanted under the kick", (_, midi, low, high) => {
    const over = loud(note("kit", {}, false, [midi])) - loud(note("kit", {}, false, [36]));
    expect(over).toBeGreaterThan(low);
    expect(over).toBeLessThan(high);
  });

  test("the kick is heard on a small speaker, and its pitch stays clear of C1", () => {
    const n = 16384;
    const { left } = note("kit", {}, false, [36]);
    let [low, all] = [0, 0];
    for (let k = 0; k < 400; k++) {
      let [re, im] = [0, 0];
      for (let i = 0; i < n; i++) {
        re += left[i]! * Math.cos((2 * Math.PI * k * i) / n);
        im += left[i]! * Math.sin((2 * Math.PI * k * i) / n);
      }
      all += re * re + im * im;
      if ((k * RATE) / n < 60) low += re * re + im * im;
    }
    expect(1 - low / all).toBeGreaterThan(1 / 3);
    const end = spectrum(part(left, 0.1, 0.48));
    const top = end.lines.indexOf(Math.max(...end.lines)) * end.width;
    expect(top).toBeGreaterThan(1.4 * hertzOf(24));
  });

  test("level 100 is well over the default, pan goes to both sides, the kit is spread", () => {
    expect(loud(note("bass", { level: 100 })) - usual).toBeGreaterThan(8);
    const left = note("bass", { pan: -100 });
    expect(peak(left.right)).toBeLessThan(1e-6);
    expect(Math.abs(loud(left) - usual)).toBeLessThan(0.5);
    const hat = note("kit", {}, false, [42]);
    expect(rms(hat.right)).toBeGreaterThan(1.3 * rms(hat.left));
    expect(rms(hat.left)).toBeGreaterThan(0.3 * rms(hat.right));
  });
});

describe("strike", () => {
  test("what rings on of a chord is not louder than it was", () => {
    const keys = [48, 52, 55, 59];
    const { left } = hear(
      timbreOf(soundOf("sub", { release: 100 }), true),
      keys.map((k) => strike(0, 1, k)),
      1.3,
    );
    for (const key of keys) {
      const own = levels(part(left, 0.8, 1.3), hertzOf(key), 0.1);
      expect(decibels(Math.max(...own.slice(5)) / own[0]!)).toBeLessThan(1);
    }
  });

  test.each(names)("%s keeps its fundamental in the first second", (voice) => {
    const own = levels(held(voice, {}, 48, 1.1), hertzOf(48)).slice(3);
    expect(decibels(Math.max(...own) / Math.min(...own))).toBeLessThan(8);
  });

  test.each(["pluck", "bell", "keys"])("%s falls without a hollow", (voice) => {
    const own = levels(hear(timbreOf(soundOf(voice)), [strike(0, 1.1, 48)], 1.1).left, hertzOf(48)).slice(1);
    let low = own[0]!;
    for (const level of own) {
      expect(decibels(level / low)).toBeLessThan(3); // it does not come back
      low = Math.min(low, level);
    }
  });

  test.each(names)("equal notes of %s sound equal, whatever rings on of the one before", (voice) => {
    const many = [0, 1, 2, 3].map((k) => strike(k * 0.43, k * 0.43 + 0.4, 48));
    const { left } = hear(timbreOf(soundOf(voice, { release: 0 })), many, 2);
    const stretches = many.map((_, k) => part(left, k * 0.43 + 0.05, k * 0.43 + 0.4));
    const [first, ...others] = stretches.map((own) => [rms(own), levels(own, hertzOf(48), 0.3)[0]!] as const);
    for (const [all, fundamental] of others) {
      expect(Math.abs(decibels(all / first![0]))).toBeLessThan(0.5);
      expect(Math.abs(decibels(fundamental / first![1]))).toBeLessThan(1);
    }
  });
});

describe("filter and envelope", () => {
  test.each(["cutoff", "resonance", "envelope"] as const)("%s moves under a note without a step", (field) => {
    for (const voice of ["bass", "pad"]) {
      const timbre = timbreOf(soundOf(voice, { sustain: 100, cutoff: 20, drive: 0 }));
      const { band, left } = hear(timbre, [strike(0, 9, 45)], 1);
      const value = field === "cutoff" ? 70 : 80;
      band.tell({ lane: "low", timbre: { ...timbre, sound: { ...timbre.sound, [field]: value } } });
      const after = listen(band, 0.6).left;
      // A step would be a click: it would reach far over what the filter lets through.
      const { lines, width } = spectrum(part(after, 0, 0.1));
      const click = lines.subarray(Math.round(12000 / width)).reduce((most, v) => Math.max(most, v), 0);
      expect(decibels(click / peak(left))).toBeLessThan(-80);
      // It is heard within 50 ms.
      const tone = (of: Float32Array) => decibels(lineAt(spectrum(of), hertzOf(45) * 6));
      const moved = tone(part(after, 0.05, 0.25)) - tone(part(left, 0.7, 0.9));
      if (field !== "envelope" || voice === "pad") expect(Math.abs(moved), `${voice} ${field}`).toBeGreaterThan(1);
    }
  });

  test("brightness (74) moves it as a hand does", () => {
    const bright = (value: number) => {
      const { left } = hear(
        timbreOf(soundOf("bass", { sustain: 100 })),
        [strike(0, 2, 40), control(0.5, 74, value)],
        1,
      );
      return lineAt(spectrum(part(left, 0.6, 1)), hertzOf(40) * 16);
    };
    expect(decibels(bright(110) / bright(64))).toBeGreaterThan(10);
  });

  test("what moves brightness by a lane makes no step either", () => {
    const sweep = Array.from({ length: 40 }, (_, k) => control(0.5 + k * 0.005, 74, 64 + k));
    const timbre = timbreOf(soundOf("bass", { sustain: 100, cutoff: 20, drive: 0 }));
    const { left } = hear(timbre, [strike(0, 9, 45), control(0.45, 74, 30), ...sweep], 1);
    const { lines, width } = spectrum(part(left, 0.44, 0.72));
    const click = lines.subarray(Math.round(14000 / width)).reduce((most, v) => Math.max(most, v), 0);
    expect(decibels(click / peak(left))).toBeLessThan(-80);
  });

  test.each([0, 40, 60, 80, 100])("a decay of %i takes as long as it says", (decay) => {
    const sound = soundOf("pluck", { decay, envelope: 0, cutoff: 100, attack: 0, drive: 0 });
    const { left } = hear(timbreOf(sound), [strike(0, 9, 72)], 5);
    const window = 0.01;
    const own = levels(left, hertzOf(72), window);
    const [a, b] = [own[3]!, own.findIndex((level, k) => k > 3 && level < own[3]! / Math.E)];
    expect(a).toBeGreaterThan(0);
    const seconds = ((b - 3) * window) / 2;
    expect(seconds).toBeGreaterThan(0.7 * (msOf("decay", decay) / 1000) - 0.01);
    expect(seconds).toBeLessThan(1.3 * (msOf("decay", decay) / 1000) + 0.01);
  });

  test.each([40, 70, 100])("an attack and a release of %i take as long as they say", (value) => {
    const flat: Partial<Sound> = { sustain: 100, envelope: 0, cutoff: 100, drive: 0 };
    const timeOf = (own: number[], reached: (level: number) => boolean) => (own.findIndex(reached) * 0.004) / 2;
    const rising = hear(timbreOf(soundOf("sub", { ...flat, attack: value })), [strike(0, 9, 84)], 5).left;
    const up = levels(rising, hertzOf(84), 0.004);
    const top = Math.max(...up);
    expect(timeOf(up, (level) => level > top * (1 - 1 / Math.E))).toBeCloseTo(msOf("attack", value) / 1000, 1.5);
    const falling = hear(
      timbreOf(soundOf("sub", { ...flat, attack: 0, release: value })),
      [strike(0, 0.5, 84)],
      4,
    ).left;
    const down = levels(part(falling, 0.5, 4), hertzOf(84), 0.004);
    const share = timeOf(down, (level) => level < down[0]! / Math.E) / (msOf("release", value) / 1000);
    expect(share).toBeGreaterThan(0.8);
    expect(share).toBeLessThan(1.2);
  });

  test("a held note comes to its sustain, and the single voice's filter follows the keys", () => {
    const level = (sustain: number) =>
      rms(part(hear(timbreOf(soundOf("sub", { sustain, decay: 20 })), [strike(0, 9, 60)], 2).left, 1.5, 2));
    expect(level(50) / level(100)).toBeCloseTo(0.5, 1);
    const share = (midi: number) => {
      const own = spectrum(part(held("bass", { envelope: 0, resonance: 0 }, midi, 1), 0.5, 1));
      return lineAt(own, hertzOf(midi) * 8) / lineAt(own, hertzOf(midi));
    };
    // Two octaves up, a filter that stood still would take 24 dB and more an octave.
    expect(decibels(share(36) / share(60))).toBeLessThan(40);
  });

  test.each(names)("%s is about as loud with every resonance", (voice) => {
    for (const cutoff of [30, 45, 70]) {
      const all = [0, 25, 50, 75, 100].map((resonance) => loud(note(voice, { resonance, cutoff })));
      expect(Math.max(...all) - Math.min(...all)).toBeLessThan(6); // within 3 dB of the middle
    }
  });

  const hard: Partial<Sound>[] = [{}, { drive: 100, resonance: 100 }, { drive: 0, resonance: 0, cutoff: 100 }];
  test.each(tones)("nothing of %s, %s folds back, and nothing stands still", (voice, wave) => {
    // What stands apart beats, and drive makes more of that: it lies near the harmonics, and does not fold.
    const beats = bodies[voice]!.side > 0;
    for (const midi of [84, 96])
      for (const other of hard) {
        const samples = part(held(voice, { wave, cutoff: 90, ...other }, midi, 2.4), 0.7, 2.4);
        const own = spectrum(samples);
        const f = hertzOf(midi);
        let worst = 0;
        for (let k = Math.round(150 / own.width); k * own.width < 10000; k++) {
          const hertz = k * own.width;
          const away = Math.abs(hertz - Math.round(hertz / f) * f);
          if (away > (beats && other.drive ? 0.4 * f : beats ? 0.02 * hertz + 12 : 12))
            worst = Math.max(worst, own.lines[k]!);
        }
        expect(decibels(worst / lineAt(own, f)), `${midi} ${JSON.stringify(other)}`).toBeLessThan(-60);
        // The mean over whole beats of what stands apart would need long to be exact: it is weighed instead.
        expect(decibels(own.lines[0]! / 2 / rms(samples)), `DC of ${midi}`).toBeLessThan(beats ? -55 : -60);
      }
  });
});

describe("touch", () => {
  /** How much lies over 800 Hz beside what lies under it, while a note closes. */
  const bite = (accent: number, velocity: number) => {
    const { left } = note("bass", { accent }, false, [40], velocity);
    const { lines, width } = spectrum(part(left, 0.08, 0.2));
    const at = Math.round(800 / width);
    const power = (own: Float64Array) => own.reduce((sum, v) => sum + v * v, 0);
    return decibels(Math.sqrt(power(lines.subarray(at)) / power(lines.subarray(0, at))));
  };

  test("an accent opens the filter, and how far is a value", () => {
    expect(bite(50, 112) - bite(50, 100)).toBeGreaterThan(6);
    expect(bite(100, 112) - bite(50, 112)).toBeGreaterThan(2);
    expect(Math.abs(bite(0, 112) - bite(0, 100))).toBeLessThan(0.1);
  });

  test("how far velocity acts on the level is a value", () => {
    const soft = (touch: number) =>
      loud(note("keys", { touch, accent: 0 }, true, [60], 50)) - loud(note("keys", {}, true, [60]));
    expect(soft(0)).toBeCloseTo(0, 0);
    expect(soft(50)).toBeCloseTo(-9, 0);
    expect(soft(100)).toBeCloseTo(-18, 0);
  });

  test("a note that is slid to minds its velocity", () => {
    const after = (velocity: number) => {
      const timbre = timbreOf(soundOf("bass", { accent: 0, envelope: 0, sustain: 100 }));
      return rms(part(hear(timbre, [strike(0, 0.55, 45, 100), strike(0.5, 1, 45, velocity)], 1).left, 0.6, 0.9));
    };
    expect(decibels(after(60) / after(100))).toBeCloseTo(-6.7, 0);
  });

  test("a portamento that is interrupted goes on from where it is", () => {
    const glide = [control(0, 5, 40), control(0, 65, 127)]; // 0.4 s
    const { left } = hear(
      timbreOf(soundOf("sub")),
      [strike(0, 0.3, 48), ...glide, strike(0.25, 0.5, 60), control(0.45, 84, 60), strike(0.45, 2, 48)],
      1,
    );
    // It was half way up, and goes down from there: at no time is it over that.
    const over = levels(part(left, 0.46, 0.9), hertzOf(58), 0.05);
    const at = levels(part(left, 0.46, 0.9), hertzOf(52), 0.05);
    expect(Math.max(...over)).toBeLessThan(0.5 * Math.max(...at));
  });
});

describe("the room", () => {
  test("an echo comes after its time, each time softer and thinner, and feedback is a value", () => {
    const echoes = (feedback: number) => {
      const timbre = { ...timbreOf(soundOf("pluck", { delay: 60, feedback, decay: 0, release: 0 })), echo: 0.5 };
      const { left } = hear(timbre, [strike(0, 0.1, 60)], 2.4);
      return [0.5, 1, 1.5, 2].map((at) => rms(part(left, at, at + 0.1)));
    };
    const [first, second, third] = echoes(60) as [number, number, number];
    expect(decibels(first / second)).toBeGreaterThan(4);
    expect(decibels(second / third)).toBeGreaterThan(4);
    expect(echoes(0)[1]!).toBeLessThan(first / 100);
    const { left } = hear(
      { ...timbreOf(soundOf("pluck", { delay: 60, decay: 0, release: 0 })), echo: 0.5 },
      [strike(0, 0.1, 60)],
      0.5,
    );
    expect(rms(part(left, 0.35, 0.49))).toBeLessThan(first / 100);
  });

  test("an echo goes over to another tempo without a click", () => {
    const timbre = { ...timbreOf(soundOf("sub", { delay: 80, feedback: 70, attack: 50 })), echo: 0.3 };
    const { band, left } = hear(timbre, [strike(0, 4, 48)], 1);
    band.tell({ lane: "low", timbre: { ...timbre, echo: 0.4 } });
    const after = listen(band, 0.3).left;
    const { lines, width } = spectrum(part(after, 0, 0.2));
    const click = lines.subarray(Math.round(8000 / width)).reduce((most, v) => Math.max(most, v), 0);
    expect(decibels(click / peak(left))).toBeLessThan(-70);
  });

  test("a reverb is heard on both sides, differs between them, and dies away", () => {
    const { left, right, band } = hear(
      timbreOf(soundOf("pluck", { reverb: 70, release: 0 })),
      [strike(0, 0.05, 60)],
      4,
    );
    const [l, r] = [part(left, 0.3, 0.6), part(right, 0.3, 0.6)];
    expect(rms(l)).toBeGreaterThan(1e-4);
    const same = l.reduce((sum, v, i) => sum + v * r[i]!, 0) / (l.length * rms(l) * rms(r));
    expect(Math.abs(same)).toBeLessThan(0.6);
    expect(peak(left, 3.5, 4)).toBeLessThan(1e-4);
    expect(band.awake).toBe(false);
  });
});

describe("limits", () => {
  test("what is let go is capped, also where chords follow fast", () => {
    const timbre = timbreOf(soundOf("pad", { release: 100 }), true);
    const chords = Array.from({ length: 60 }, (_, k) =>
      [48, 52, 55, 59].map((m) => strike(k * 0.05, k * 0.05 + 0.04, m + (k % 7))),
    );
    const { band } = hear(timbre, chords.flat(), 2.9);
    expect(band.notes).toBeLessThanOrEqual(12);
  });

  test("where too many notes sound, those give way first that have been let go", () => {
    const { band } = hear(timbreOf(soundOf("pad")), [], 0);
    for (let k = 0; k < 64; k++) {
      band.tell({ lane: `l${k}`, timbre: timbreOf(soundOf("pad"), true) });
      for (const m of [48, 52, 55, 59]) band.tell(strike(0, 1, m + (k % 12), 100, `l${k}`));
    }
    const { left } = listen(band, 0.5);
    expect(band.notes).toBeLessThanOrEqual(80);
    expect(rms(part(left, 0.3, 0.5))).toBeGreaterThan(0.1);
  });

  test("live and in files the same samples are made", () => {
    const timbre = timbreOf(soundOf("lead", { delay: 40, reverb: 40, drive: 60 }));
    const messages = [
      strike(0.0123, 0.2, 60),
      act(0.1234, { do: "bend", value: 3000 }),
      strike(0.15, 0.3, 67),
      strike(0.3, 0.4, 67, 40),
    ];
    const whole = hear(timbre, messages, 1, RATE);
    const small = hear(timbre, messages, 1, 128);
    expect(small.left).toEqual(whole.left);
    expect(small.right).toEqual(whole.right);
  });
});
