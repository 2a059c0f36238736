import { describe, expect, it } from "vitest";
import type { Sound } from "../src/api/gen/piece.gen";
import { voices } from "../src/audio/voices";
import { Band } from "../src/synth/band";
import { drumOf } from "../src/synth/kit";
import { Master } from "../src/synth/master";
import { percussion } from "../src/synth/percussion";
import type { Act, Message } from "../src/synth/protocol";
import { RATE, soundOf, timbreOf } from "./listening";
import { drawn } from "./made";

const plain: Sound = soundOf("bass", { cutoff: 70, resonance: 10, envelope: 30, drive: 0 });

const told = (band: Band, acts: readonly [number, Act][]) => {
  for (const [at, act] of acts) band.tell({ lane: "low", at, act });
};

/** So many seconds of a band from where it stands. */
function next(band: Band, seconds: number): Float32Array {
  const n = Math.round(seconds * RATE);
  const [left, right] = [new Float32Array(n), new Float32Array(n)];
  for (let at = 0; at < n; at += 128) band.render(left, right, at, Math.min(128, n - at));
  return left;
}

const loud = (samples: Float32Array) => Math.sqrt(samples.reduce((sum, v) => sum + v * v, 0) / samples.length);

const fresh = (sound: Partial<Sound> = {}, many = false) => {
  const band = new Band(RATE);
  band.tell({ lane: "low", timbre: timbreOf({ ...plain, ...sound }, many) });
  return band;
};

const strike = (at: number, midi: number, end = at + 0.5): [number, Act] => [
  at,
  { do: "strike", midi, velocity: 100, end },
];

describe("a voice at rest", () => {
  const moved: [number, Act][] = [
    [0, { do: "controller", controller: 101, value: 0 }],
    [0, { do: "controller", controller: 100, value: 0 }],
    [0, { do: "controller", controller: 6, value: 12 }],
    [0, { do: "bend", value: 7000 }],
    [0, { do: "controller", controller: 7, value: 2 }],
    [0, { do: "controller", controller: 74, value: 5 }],
    [0, { do: "controller", controller: 64, value: 127 }],
    [0, { do: "press", value: 120 }],
    [0.4, { do: "controller", controller: 7, value: 1 }], // still queued as it comes to rest
  ];
  for (const [name, end] of [
    [
      "put to rest",
      (band: Band) =>
        told(band, [
          [0.2, { do: "silence" }],
          [0.2, { do: "rest" }],
        ]),
    ],
    [
      "taken away and made again",
      (band: Band) => {
        band.tell({ lane: "low", gone: true });
        band.tell({ lane: "low", timbre: timbreOf(plain) });
      },
    ],
  ] as const)
    it(`sounds as it did at first when it is ${name}`, () => {
      const band = fresh();
      told(band, [...moved, strike(0, 45, 0.15)]);
      next(band, 0.2);
      end(band);
      next(band, 1);
      told(band, [strike(1.3, 45, 1.7)]);
      const first = fresh();
      told(first, [strike(0.1, 45, 0.5)]);
      next(band, 0.1);
      next(first, 0.1);
      const [again, once] = [next(band, 0.4), next(first, 0.4)];
      expect(loud(again) / loud(once)).toBeCloseTo(1, 1);
    });
  it("has values at once that were set while nothing sounded", () => {
    const [set, born] = [fresh(), fresh({ level: 30 })];
    told(set, [strike(0, 45, 0.1)]);
    next(set, 2);
    set.tell({ lane: "low", timbre: timbreOf({ ...plain, level: 30 }) });
    told(set, [[2, { do: "controller", controller: 7, value: 50 }], strike(2.1, 45)]);
    told(born, [[0, { do: "controller", controller: 7, value: 50 }], strike(0.1, 45)]);
    next(set, 0.1);
    next(born, 0.1);
    expect(loud(next(set, 0.01)) / loud(next(born, 0.01))).toBeCloseTo(1, 1);
  });
});

// Whatever is told of whatever values, within their ranges and beyond, all samples are finite and within full scale.
it("never makes a sample that is not finite", () => {
  const pick = drawn(7);
  const values = [0, 1, -1, 64, 100, 127, 128, 8191, -8192, 1e6, -1e9, Infinity, -Infinity, Number.NaN, 1e-9];
  const any = () => values[pick(values.length)]!;
  for (let round = 0; round < 60; round++) {
    const band = new Band(RATE);
    const master = new Master(RATE);
    const names = Object.keys(voices);
    const sound = { ...plain, voice: names[pick(names.length)]!, wave: ["saw", "pulse"][pick(2)]! };
    for (const field of ["level", "cutoff", "resonance", "envelope", "decay", "drive", "delay"] as const)
      sound[field] = pick(2) ? any() : pick(101);
    const tell = (message: Message) => band.tell(message);
    tell({ lane: "low", timbre: { sound, many: pick(2) > 0, portamento: [0, 0.1, any()], echo: any() } });
    for (let k = 0; k < 30; k++) {
      const at = pick(20) / 100;
      const act = (
        [
          () => ({
            do: "strike",
            midi: any(),
            velocity: any(),
            end: pick(3) ? at + 0.1 : any(),
            slides: pick(3) ? [] : [{ after: any(), bend: any() }],
          }),
          () => ({
            do: "controller",
            controller: [1, 5, 6, 7, 10, 11, 64, 65, 71, 74, 84, 100, 101][pick(13)]!,
            value: any(),
          }),
          () => ({ do: "bend", value: any() }),
          () => ({ do: "press", value: any() }),
        ] as const
      )[pick(4)]!() as Act;
      tell({ lane: "low", at: pick(10) ? at : any(), act });
    }
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    for (let done = 0; done < 0.3 * RATE; done += 128) {
      left.fill(0);
      right.fill(0);
      band.render(left, right, 0, 128);
      master.render(left, right);
      expect([...left, ...right].every((v) => Math.abs(v) <= 1)).toBe(true);
    }
    // What happened leaves nothing behind: another note sounds.
    tell({ lane: "low", timbre: timbreOf(plain) });
    tell({ lane: "low", at: 0.5, act: { do: "rest" } });
    tell({ lane: "low", at: 0.6, act: { do: "strike", midi: 45, velocity: 100, end: 1 } });
    next(band, 0.4);
    expect(loud(next(band, 0.2))).toBeGreaterThan(0.001);
  }
});

it("takes many messages in at once, in the order of time", () => {
  const [one, all] = [fresh(), fresh()];
  const acts: [number, Act][] = Array.from({ length: 32_000 }, (_, k) => [
    ((k * 7919) % 32_000) / 32_000,
    { do: "controller", controller: 7, value: ((k * 7919) % 32_000) % 128 },
  ]);
  told(all, [strike(0, 45, 1), ...acts]);
  told(one, [strike(0, 45, 1)]);
  for (const [at, act] of [...acts].sort(([a], [b]) => a - b)) {
    told(one, [[at, act]]);
  }
  expect(next(all, 0.5)).toEqual(next(one, 0.5));
});

describe("drums", () => {
  it.each([
    ["acoustic bass drum", 35, 36],
    ["electric snare", 40, 38],
    ["low floor tom", 41, 45],
    ["high tom", 50, 45],
    ["pedal hi-hat", 44, 42],
    ["open hi-hat", 46, 46],
    ["ride cymbal", 51, 49],
    ["low conga", 64, 45],
    ["claves", 75, 37],
  ])("%s (%d) sounds as %d of the kit", (_, note, drum) => expect(drumOf(note)[0]).toBe(drum));
  it("has a row for each note of the map, and toms rise as their notes do", () => {
    for (let note = 35; note <= 81; note++) expect(percussion[note], String(note)).toBeDefined();
    const toms = [41, 43, 45, 47, 48, 50].map((note) => drumOf(note)[1]);
    expect(toms).toEqual([...toms].sort((a, b) => a - b));
  });
  it("an open hat ends where it is closed", () => {
    const [open, closed] = [fresh({ voice: "kit" }), fresh({ voice: "kit" })];
    told(open, [strike(0, 46)]);
    told(closed, [strike(0, 46), strike(0.1, 44)]);
    next(open, 0.25);
    next(closed, 0.25);
    expect(loud(next(closed, 0.1))).toBeLessThan(0.1 * loud(next(open, 0.1)));
  });
});
