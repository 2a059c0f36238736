import { expect, test } from "vitest";
import type { Sound } from "../src/api/gen/piece.gen";
import { Band } from "../src/synth/band";
import { Master } from "../src/synth/master";
import type { Message } from "../src/synth/protocol";
import { voices } from "../src/audio/voices";
import { act, hear, part, peak, RATE, soundOf, strike, timbreOf } from "./listening";

const plain: Partial<Sound> = { cutoff: 70, resonance: 10, envelope: 30, drive: 0 };
const timbre = ({ voice = "bass", ...sound }: Partial<Sound> = {}, many = false) =>
  timbreOf(soundOf(voice, { ...plain, ...sound }), many);

const heard = (messages: readonly Message[], seconds: number, piece = 128, what = timbre()) =>
  hear(what, messages, seconds, piece);

/** The pitch of a stretch, as a MIDI number: where it is most like itself a period later. */
function pitchOf(samples: Float32Array, from: number, to: number): number {
  const own = part(samples, from, to);
  const likeness = (lag: number) => {
    let sum = 0;
    for (let i = 0; i + lag < own.length; i++) sum -= (own[i]! - own[i + lag]!) ** 2;
    return sum / (own.length - lag);
  };
  const all = Array.from({ length: 1200 }, (_, lag) => (lag < 30 ? Number.NEGATIVE_INFINITY : likeness(lag)));
  const near = 0.12 * Math.min(...all.slice(30));
  const best = all.findIndex((v, lag) => lag > 30 && v > near && v >= all[lag - 1]! && v >= all[lag + 1]!);
  const [a, b, c] = [all[best - 1]!, all[best]!, all[best + 1]!];
  return 69 + 12 * Math.log2(RATE / (best + (a - c) / (2 * (a - 2 * b + c))) / 440);
}

test.each([
  ["bass", false],
  ["bass", true],
  ["sub", false],
  ["pluck", false],
  ["pluck", true],
  ["lead", false],
  ["bell", true],
  ["keys", true],
  ["pad", true],
])("a note of %s (many: %s) is in tune, sounds while it is held, and then dies away", (voice, many) => {
  const { left } = heard([strike(0.1, 0.9, 57)], 5, 128, timbre({ voice }, many));
  expect(peak(left, 0, 0.1)).toBe(0);
  expect(peak(left, 0.2, 0.5)).toBeGreaterThan(0.004);
  expect(pitchOf(left, 0.3, 0.5)).toBeCloseTo(57, 0);
  expect(peak(left, 4, 5)).toBeLessThan(1e-4);
});

test("every voice of the document is made, and its silence costs nothing", () => {
  for (const voice of Object.keys(voices)) {
    const { left, band } = heard([strike(0, 0.1, 42)], 8, 128, timbre({ voice, delay: 50 }, true));
    expect(peak(left), voice).toBeGreaterThan(0.005);
    expect(band.awake, voice).toBe(false);
  }
});

test("the same is heard in whatever pieces it is worked out", () => {
  const messages = [
    act(0, { do: "controller", controller: 1, value: 90 }),
    strike(0, 0.2, 40),
    act(0.1234, { do: "bend", value: 3000 }),
    strike(0.15, 0.3, 47),
    strike(0.3, 0.4, 47, 40),
  ];
  const whole = heard(messages, 1, RATE, timbre({ delay: 40, drive: 60 })).left;
  const small = heard(messages, 1, 64, timbre({ delay: 40, drive: 60 })).left;
  const worst = whole.reduce((most, v, i) => Math.max(most, Math.abs(v - small[i]!)), 0);
  expect(worst).toBeLessThan(0.02); // filters and pitches are set once in a grain
  expect(heard(messages, 1, 128).left).toEqual(heard(messages, 1, 128).left);
});

test("the wheel bends by its range, and a note's own slide by itself", () => {
  const range = [101, 100, 6].map((controller, i) => act(0, { do: "controller", controller, value: [0, 0, 12][i]! }));
  const bent = heard([...range, act(0, { do: "bend", value: 4096 }), strike(0, 1, 45)], 1).left;
  expect(pitchOf(bent, 0.4, 0.7)).toBeCloseTo(51, 1);
  for (const many of [false, true]) {
    const slides = [
      { after: 0, bend: -5 },
      { after: 0.3, bend: -5 },
      { after: 0.5, bend: 0 },
    ];
    const slid = act(0, { do: "strike", midi: 50, velocity: 100, end: 1, slides });
    const { left } = heard([slid], 1, 128, timbre({ voice: many ? "pad" : "bass" }, many));
    expect(pitchOf(left, 0.1, 0.3)).toBeCloseTo(45, 0);
    expect(pitchOf(left, 0.6, 0.9)).toBeCloseTo(50, 0);
  }
});

test("portamento glides for its time from the note before, also where that has ended", () => {
  const on = [
    act(0, { do: "controller", controller: 5, value: 40 }), // 0.4 s
    act(0, { do: "controller", controller: 65, value: 127 }),
  ];
  const { left } = heard([strike(0, 0.2, 40), ...on.map((m) => ({ ...m, at: 0.25 })), strike(0.3, 1, 52)], 1);
  expect(pitchOf(left, 0.48, 0.52)).toBeCloseTo(46, 0);
  expect(pitchOf(left, 0.75, 0.95)).toBeCloseTo(52, 1);
});

test("an overlapping note goes on without a new attack, an abutting one is struck anew", () => {
  const level = (end: number) => peak(heard([strike(0, end, 45, 127), strike(1, 1.5, 45, 127)], 2).left, 1, 1.2);
  expect(level(1)).toBeGreaterThan(level(1.01) * 1.1);
});

test("silence ends what sounds, and what was to come on that lane is not struck", () => {
  const { left } = heard([strike(0, 3, 45), strike(1, 2, 50), act(0.5, { do: "silence" })], 2);
  expect(peak(left, 0.2, 0.5)).toBeGreaterThan(0.01);
  expect(peak(left, 0.9, 2)).toBeLessThan(1e-3);
  // What is told afterwards is.
  const again = heard([strike(0, 3, 45), act(0.5, { do: "silence" }), strike(1, 2, 50)], 2).left;
  expect(peak(again, 1, 1.5)).toBeGreaterThan(0.01);
});

test("the pedal holds what has ended until it is let go", () => {
  for (const many of [false, true]) {
    const pedal = (at: number, value: number) => act(at, { do: "controller", controller: 64, value });
    const { left } = heard(
      [pedal(0, 127), strike(0, 0.3, 45), pedal(1, 0)],
      4,
      128,
      timbre({ voice: many ? "pad" : "bass" }, many),
    );
    expect(peak(left, 0.7, 1)).toBeGreaterThan(0.005);
    expect(peak(left, 3.5, 4)).toBeLessThan(1e-3);
  }
});

test("volume, expression and pan do what they say", () => {
  const played = (controller: number, value: number) =>
    heard([act(0, { do: "controller", controller, value }), strike(0.1, 1, 45)], 1);
  expect(peak(played(7, 0).left, 0.2)).toBeLessThan(1e-3);
  expect(peak(played(11, 0).right, 0.2)).toBeLessThan(1e-3);
  const hard = played(10, 127);
  expect(peak(hard.left, 0.3)).toBeLessThan(1e-3);
  expect(peak(hard.right, 0.3)).toBeGreaterThan(0.01);
});

test("a lane that is taken away dies away, and is struck no more", () => {
  const band = new Band(RATE);
  band.tell({ lane: "low", timbre: timbre() });
  band.tell(strike(0, 5, 45));
  const out = () => {
    const [left, right] = [new Float32Array(RATE), new Float32Array(RATE)];
    band.render(left, right, 0, RATE);
    return left;
  };
  out();
  band.tell(strike(1.5, 2, 50));
  band.tell({ lane: "low", gone: true });
  out();
  expect(band.awake).toBe(false);
  band.tell(strike(3, 4, 50));
  expect(peak(out())).toBe(0);
});

test("however many strike at once, the loudspeakers get no more than full scale", () => {
  const band = new Band(RATE);
  const master = new Master(RATE);
  for (let k = 0; k < 64; k++) {
    band.tell({ lane: `l${k}`, timbre: timbre({ level: 100, resonance: 80 }) });
    band.tell({ lane: `l${k}`, at: 0, act: { do: "strike", midi: 36 + (k % 24), velocity: 127, end: 1 } });
  }
  const [left, right] = [new Float32Array(RATE), new Float32Array(RATE)];
  band.render(left, right, 0, RATE);
  expect(peak(left)).toBeGreaterThan(1);
  master.render(left, right);
  expect(peak(left)).toBeLessThanOrEqual(1);
  expect(left.every(Number.isFinite)).toBe(true);
});

test("where the sound lost time, what has ended by then is not struck, and what lasts is", () => {
  const after = (length: number) => {
    const band = new Band(RATE);
    band.tell({ lane: "low", timbre: timbre() });
    band.tell(strike(0.1, 0.1 + length, 57));
    band.frame = RATE / 2; // the clock that it goes by leapt
    const left = new Float32Array(RATE / 4);
    band.render(left, new Float32Array(left.length), 0, left.length);
    return peak(left);
  };
  expect(after(0.2)).toBe(0);
  expect(after(1)).toBeGreaterThan(0.004);
});

test("a clock that is followed by a sample more or less at a time strikes each note once", () => {
  const strikes = Array.from({ length: 20 }, (_, k) => strike(0.1 + k / 10, 0.18 + k / 10, 57));
  const still = heard(strikes, 2.5).left;
  const band = new Band(RATE);
  band.tell({ lane: "low", timbre: timbre() });
  for (const message of strikes) band.tell(message);
  const [left, right] = [new Float32Array(still.length), new Float32Array(still.length)];
  for (let at = 0, ahead = 0; at < left.length; at += 128) {
    band.frame = at + (ahead += at % 512 ? 1 : -2);
    band.render(left, right, at, Math.min(128, left.length - at));
  }
  const loud = (samples: Float32Array) =>
    Array.from({ length: 20 }, (_, k) => [
      peak(samples, k / 10 + 0.11, k / 10 + 0.16),
      peak(samples, k / 10 + 0.07, k / 10 + 0.08),
    ]);
  loud(left).forEach((own, k) => own.forEach((v, i) => expect(v).toBeCloseTo(loud(still)[k]![i]!, 1)));
});

// A key that is held is struck to an end that is far away, and let go of when the hand comes up.
test.each([
  ["bass", false],
  ["pad", true],
])("a key that is let go of dies away alone (%s)", (voice, many) => {
  const sound = timbre({ voice, release: 10 }, many);
  const { left } = heard(
    [strike(0, 600, 45), act(1, { do: "lift", midi: 50 }), act(2, { do: "lift", midi: 45 })],
    6,
    128,
    sound,
  );
  expect(peak(left, 1.5, 2)).toBeGreaterThan(0.004);
  expect(peak(left, 5, 6)).toBeLessThan(1e-4);
  if (!many) return;
  const two = heard([strike(0, 600, 45), strike(0, 600, 57), act(1, { do: "lift", midi: 45 })], 6, 128, sound).left;
  expect(pitchOf(two, 5, 5.5)).toBeCloseTo(57, 0);
});
