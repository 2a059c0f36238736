// @vitest-environment node
import { expect, test } from "vitest";
import { packed } from "../src/sound/bounce";
import { Recorder } from "../src/sound/recorder";
import { HEADER, type Depth } from "../src/sound/wav";
import type { Sound } from "../src/api/gen/piece.gen";
import type { Message } from "../src/synth/protocol";
import { Band } from "../src/synth/band";
import { AHEAD, Master } from "../src/synth/master";
import { RATE, soundOf, timbreOf } from "./listening";

const lane = (id: string, sound: Partial<Sound> = {}): Message => ({
  lane: id,
  timbre: timbreOf(soundOf(sound.voice ?? "pluck", { cutoff: 60, delay: 40, ...sound })),
});
const loudest = (of: readonly number[]): number => of.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
const strike = (id: string, at: number, end: number, midi: number): Message => ({
  lane: id,
  at,
  act: { do: "strike", midi, velocity: 110, end },
});
const two = [lane("a"), lane("b", { voice: "pad" }), strike("a", 0.1, 0.5, 45), strike("b", 0.7, 1.4, 60)];

/** Records in pieces of so many frames; the samples of each file, two channels in turns. */
async function recorded(
  messages: readonly Message[],
  frames: number,
  { apart = false, limited = false, loop = 0, depth = 32 as Depth, piece = 11025 } = {},
) {
  const recorder = new Recorder(RATE, apart, limited, loop);
  recorder.tell(messages);
  for (let at = 0; at < frames; at += piece) await recorder.render(Math.min(piece, frames - at));
  const { recordings, ...finished } = await recorder.finish(depth);
  const files = new Map<string, { head: DataView; samples: number[] }>();
  for (const { lane: name, file } of recordings) {
    const head = new DataView(await file.arrayBuffer());
    const size = depth / 8;
    const samples = Array.from({ length: (head.byteLength - HEADER) / size }, (_, i) => {
      const at = HEADER + i * size;
      if (depth === 32) return head.getFloat32(at, true);
      if (depth === 16) return head.getInt16(at, true) / (2 ** 15 - 1);
      return ((head.getInt16(at + 1, true) << 8) | head.getUint8(at)) / (2 ** 23 - 1);
    });
    files.set(name, { head, samples });
  }
  return { files, ...finished };
}

test.each([16, 24, 32] as const)("a file of %i bits holds what is played, and says how", async (depth) => {
  const fine = (await recorded(two, RATE * 2)).files.get("")!;
  const { head, samples } = (await recorded(two, RATE * 2, { depth })).files.get("")!;
  const text = (at: number) => String.fromCharCode(...[0, 1, 2, 3].map((i) => head.getUint8(at + i)));
  expect([text(0), text(8), text(12), text(36)]).toEqual(["RIFF", "WAVE", "fmt ", "data"]);
  expect(head.getUint16(20, true)).toBe(depth === 32 ? 3 : 1);
  expect([head.getUint16(22, true), head.getUint32(24, true), head.getUint16(34, true)]).toEqual([2, RATE, depth]);
  expect(head.getUint32(40, true)).toBe(head.byteLength - HEADER);
  expect(head.getUint32(4, true)).toBe(head.byteLength - 8);
  expect(samples.length).toBe(RATE * 2 * 2);
  expect(loudest(samples)).toBeGreaterThan(0.02);
  const off = samples.reduce((most, v, i) => Math.max(most, Math.abs(v - fine.samples[i]!)), 0);
  // 16 bits are dithered by up to one bit more.
  const bits = { 16: 1.51, 24: 0.51, 32: 0 }[depth];
  expect(off).toBeLessThanOrEqual(bits / (2 ** (depth - 1) - 1));
  expect(
    samples.slice(0, 100).every((v) => v === 0),
    "silence stays silence",
  ).toBe(true);
});

test("files of lanes add up to the whole, also of one that begins late", async () => {
  const whole = (await recorded(two, RATE * 2)).files.get("")!.samples;
  const { files } = await recorded(two, RATE * 2, { apart: true });
  expect([...files.keys()].sort()).toEqual(["a", "b"]);
  const [a, b] = [files.get("a")!.samples, files.get("b")!.samples];
  expect([a.length, b.length]).toEqual([whole.length, whole.length]);
  expect(loudest(b.slice(0, RATE * 2 * 0.69))).toBe(0);
  const off = whole.reduce((most, v, i) => Math.max(most, Math.abs(v - a[i]! - b[i]!)), 0);
  expect(off).toBeLessThan(1e-6);
});

test("cut to loop, the tail is laid over the beginning, and round it goes without a click", async () => {
  const loop = RATE;
  const struck = [lane("a"), strike("a", 0.5, 0.99, 45)];
  const plain = (await recorded(struck, RATE * 4)).files.get("")!.samples;
  const { samples } = (await recorded(struck, RATE * 4, { loop, piece: 30000 })).files.get("")!;
  expect(samples.length).toBe(loop * 2);
  // As if it had gone round for long: what sounds at a place is the sum of all rounds there.
  const rounds = Array.from({ length: loop * 2 }, (_, i) =>
    [0, 1, 2, 3].reduce((sum, k) => sum + (plain[i + k * loop * 2] ?? 0), 0),
  );
  expect(samples.reduce((most, v, i) => Math.max(most, Math.abs(v - rounds[i]!)), 0)).toBeLessThan(1e-5);
  const jump = Math.abs(samples[0]! - samples[loop * 2 - 2]!);
  const steps = samples.flatMap((v, i) => (i >= 2 && i % 2 === 0 ? [Math.abs(v - samples[i - 2]!)] : []));
  expect(jump).toBeLessThan(loudest(steps));
});

test("what goes over full scale is lowered as a whole, and by how much is said", async () => {
  const many = Array.from({ length: 24 }, (_, k) => [
    lane(`l${k}`, { voice: "bass", level: 100, delay: 0 }),
    strike(`l${k}`, 0.1, 0.9, 40 + k),
  ]).flat();
  const loud = await recorded(many, RATE);
  expect(loud.peak).toBeGreaterThan(1);
  expect(loud.gain).toBeCloseTo(0.999 / loud.peak, 6);
  expect(loudest(loud.files.get("")!.samples)).toBeLessThan(1);
  const quiet = await recorded(two, RATE);
  expect(quiet.gain).toBe(1);
});

const crowd = Array.from({ length: 24 }, (_, k) => [
  lane(`l${k}`, { voice: "bass", level: 100, delay: 0 }),
  strike(`l${k}`, 0.1, 0.6, 40 + k),
]).flat();

test("limited, a file is what the loudspeakers get, and files of lanes add up to it", async () => {
  const limited = await recorded(crowd, RATE, { limited: true });
  const { samples } = limited.files.get("")!;
  expect(limited.gain).toBe(1);
  expect(limited.held).toBeLessThan(0.8);
  expect(loudest(samples)).toBeLessThan(0.95);
  const band = new Band(RATE);
  const master = new Master(RATE);
  for (const message of crowd) band.tell(message);
  const [left, right] = [new Float32Array(RATE + AHEAD), new Float32Array(RATE + AHEAD)];
  band.render(left, right, 0, left.length);
  master.render(left, right);
  // The loudspeakers get it some samples later.
  const off = Array.from({ length: RATE }, (_, i) => Math.abs(samples[2 * i]! - left[i + AHEAD]!));
  expect(loudest(off)).toBeLessThan(1e-5);
  const apart = await recorded(crowd, RATE, { limited: true, apart: true });
  const sums = Array.from({ length: RATE * 2 }, () => 0);
  for (const { samples: own } of apart.files.values()) own.forEach((v, i) => (sums[i]! += v));
  expect(loudest(sums.map((v, i) => v - samples[i]!))).toBeLessThan(1e-4);
});

test("limited and cut to loop, its beginning is as loud as it is after its end", async () => {
  const loop = Math.round(0.5 * RATE);
  const { files } = await recorded(crowd, RATE, { limited: true, loop });
  const { samples } = files.get("")!;
  expect(samples.length).toBe(2 * loop);
  expect(loudest(samples)).toBeLessThan(0.95);
  const steps = samples.flatMap((v, i) => (i >= 2 && i % 2 === 0 ? [Math.abs(v - samples[i - 2]!)] : []));
  expect(Math.abs(samples[0]! - samples[2 * loop - 2]!)).toBeLessThan(loudest(steps));
});

test("packed lanes are named as they are called, each once", async () => {
  const file = new Blob([new Uint8Array(10)]);
  const zip = await packed(
    ["x/a", "x/b", "the beat"].map((id) => ({ lane: id, file })),
    () => "Low/High",
  );
  const text = new TextDecoder("latin1").decode(await zip.arrayBuffer());
  for (const name of ["Low-High.wav", "Low-High 2.wav", "Beat.wav"]) expect(text).toContain(name);
});
