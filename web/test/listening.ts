import FFT from "fft.js";
import type { Sound } from "../src/api/gen/piece.gen";
import { voiceSounds } from "../src/api/gen/schema.gen";
import { Band } from "../src/synth/band";
import type { Act, Message, Timbre } from "../src/synth/protocol";

export const RATE = 44100;

/** How a voice sounds where nothing else is said of it. */
export const soundOf = (voice: string, other: Partial<Sound> = {}): Sound => ({
  ...voiceSounds[voice as keyof typeof voiceSounds],
  ...other,
});

export const timbreOf = (sound: Sound, many = false): Timbre => ({
  sound,
  many,
  portamento: Array.from({ length: 128 }, (_, v) => v / 100),
  echo: 0.3,
});

export const act = (at: number, what: Act, lane = "low"): Message => ({ lane, at, act: what });

export const strike = (at: number, end: number, midi: number, velocity = 100, lane = "low"): Message =>
  act(at, { do: "strike", midi, velocity, end }, lane);

export const control = (at: number, controller: number, value: number): Message =>
  act(at, { do: "controller", controller, value });

export interface Heard {
  left: Float32Array;
  right: Float32Array;
  band: Band;
}

/** What is heard of messages to one lane, in pieces of so many samples. */
export function hear(timbre: Timbre, messages: readonly Message[], seconds: number, piece = 128): Heard {
  const band = new Band(RATE);
  band.tell({ lane: "low", timbre });
  for (const message of messages) band.tell(message);
  return { ...listen(band, seconds, piece), band };
}

/** The next seconds of a band. */
export function listen(band: Band, seconds: number, piece = 128): { left: Float32Array; right: Float32Array } {
  const n = Math.round(seconds * RATE);
  const [left, right] = [new Float32Array(n), new Float32Array(n)];
  for (let at = 0; at < n; at += piece) band.render(left, right, at, Math.min(piece, n - at));
  return { left, right };
}

export const part = (samples: Float32Array, from: number, to: number): Float32Array =>
  samples.subarray(Math.round(from * RATE), Math.round(to * RATE));

export const peak = (samples: Float32Array, from = 0, to = samples.length / RATE): number =>
  part(samples, from, to).reduce((most, v) => Math.max(most, Math.abs(v)), 0);

export const rms = (samples: Float32Array): number =>
  Math.sqrt(samples.reduce((sum, v) => sum + v * v, 0) / Math.max(samples.length, 1));

export const decibels = (ratio: number): number => 20 * Math.log10(Math.max(ratio, 1e-12));

/** A filter with two poles and two zeros, over samples. */
function biquad(from: Float64Array, [b0, b1, b2, a1, a2]: readonly number[]): Float64Array {
  const out = new Float64Array(from.length);
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  for (let i = 0; i < from.length; i++) {
    const x = from[i]!;
    const y = b0! * x + b1! * x1 + b2! * x2 - a1! * y1 - a2! * y2;
    [x2, x1, y2, y1] = [x1, x, y1, y];
    out[i] = y;
  }
  return out;
}

/** The K weighting of ITU-R BS.1770-4, worked out for a sampling rate from its two filters. */
function weighted(from: Float32Array, rate: number): Float64Array {
  const shelf = () => {
    const [f, gain, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196];
    const k = Math.tan((Math.PI * f) / rate);
    const vh = 10 ** (gain / 20);
    const vb = vh ** 0.4996667741545416;
    const a0 = 1 + k / q + k * k;
    return [
      (vh + (vb * k) / q + k * k) / a0,
      (2 * (k * k - vh)) / a0,
      (vh - (vb * k) / q + k * k) / a0,
      (2 * (k * k - 1)) / a0,
      (1 - k / q + k * k) / a0,
    ];
  };
  const pass = () => {
    const [f, q] = [38.13547087602444, 0.5003270373238773];
    const k = Math.tan((Math.PI * f) / rate);
    const a0 = 1 + k / q + k * k;
    return [1, -2, 1, (2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0];
  };
  return biquad(biquad(Float64Array.from(from), shelf()), pass());
}

/** The loudness of a stretch of both sides, in LUFS, by ITU-R BS.1770-4, as one block without gates. */
export function loudness(
  { left, right }: { left: Float32Array; right: Float32Array },
  from = 0,
  to = left.length / RATE,
): number {
  const power = [left, right].map((side) => {
    const own = weighted(side, RATE).subarray(Math.round(from * RATE), Math.round(to * RATE));
    return own.reduce((sum, v) => sum + v * v, 0) / own.length;
  });
  return -0.691 + 10 * Math.log10(Math.max(power[0]! + power[1]!, 1e-20));
}

/** The magnitudes of a spectrum, of as many samples as are the next power of two below, under a window whose sides
 * fall off by 92 dB (Blackman and Harris); each line is rate / size apart. */
export function spectrum(samples: Float32Array): { lines: Float64Array; width: number } {
  const size = 2 ** Math.floor(Math.log2(samples.length));
  const fft = new FFT(size);
  const turns = Array.from({ length: size }, (_, i) => {
    const t = (2 * Math.PI * i) / size;
    const window = 0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
    return samples[i]! * window;
  });
  const out = fft.createComplexArray();
  fft.realTransform(out, turns);
  const lines = Float64Array.from(
    { length: size / 2 },
    (_, k) => (Math.hypot(out[2 * k]!, out[2 * k + 1]!) * 2) / size / 0.35875,
  );
  return { lines, width: RATE / size };
}

/** The highest line within some lines of a frequency. */
export function lineAt({ lines, width }: ReturnType<typeof spectrum>, hertz: number, near = 4): number {
  const at = Math.round(hertz / width);
  return lines.subarray(Math.max(at - near, 0), at + near + 1).reduce((most, v) => Math.max(most, v), 0);
}

export const hertzOf = (midi: number): number => 440 * 2 ** ((midi - 69) / 12);

/** The level of one frequency over time, in windows of so many seconds. */
export function levels(samples: Float32Array, hertz: number, window = 0.04): number[] {
  const n = Math.round(window * RATE);
  const out: number[] = [];
  for (let at = 0; at + n <= samples.length; at += n >> 1) {
    let [re, im, sum] = [0, 0, 0];
    for (let i = 0; i < n; i++) {
      const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n);
      const t = (2 * Math.PI * hertz * (at + i)) / RATE;
      re += samples[at + i]! * w * Math.cos(t);
      im += samples[at + i]! * w * Math.sin(t);
      sum += w;
    }
    out.push((2 * Math.hypot(re, im)) / sum);
  }
  return out;
}
