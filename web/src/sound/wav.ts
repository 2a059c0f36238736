import type { Noise } from "../synth/parts/wave";

/** How samples are written: whole numbers of 16 or 24 bits, or floats of 32. */
export type Depth = 16 | 24 | 32;

/** The bytes before the samples. */
export const HEADER = 44;

/** The most bytes of samples that a file of this kind can have. */
export const MOST = 2 ** 32 - 1 - HEADER;

/** The head of a WAV file of two channels with so many frames. */
export function header(frames: number, rate: number, depth: Depth): ArrayBuffer {
  const frame = (depth / 8) * 2;
  const out = new DataView(new ArrayBuffer(HEADER));
  const text = (at: number, letters: string) => [...letters].forEach((c, i) => out.setUint8(at + i, c.charCodeAt(0)));
  text(0, "RIFF");
  out.setUint32(4, HEADER - 8 + frames * frame, true);
  text(8, "WAVEfmt ");
  out.setUint32(16, 16, true);
  out.setUint16(20, depth === 32 ? 3 : 1, true); // floats, or whole numbers
  out.setUint16(22, 2, true);
  out.setUint32(24, rate, true);
  out.setUint32(28, rate * frame, true);
  out.setUint16(32, frame, true);
  out.setUint16(34, depth, true);
  text(36, "data");
  out.setUint32(40, frames * frame, true);
  return out.buffer as ArrayBuffer;
}

/** Samples, times a gain, as a file has them. dither: noise, whose sum of two goes to the last bit of 16, so that
 * what is very soft is not rounded to something that buzzes (triangular dither); silence stays silence. */
export function samples(from: Float32Array, depth: Depth, gain: number, dither: Noise): ArrayBuffer {
  const size = depth / 8;
  const out = new DataView(new ArrayBuffer(from.length * size));
  const top = 2 ** (depth - 1) - 1;
  for (let i = 0; i < from.length; i++) {
    const v = from[i]! * gain;
    if (depth === 32) {
      out.setFloat32(i * 4, v, true);
      continue;
    }
    const noise = depth === 16 && v !== 0 ? (dither.next() + dither.next()) / 2 : 0;
    const whole = Math.max(Math.min(Math.round(v * top + noise), top), -top);
    if (depth === 16) out.setInt16(i * 2, whole, true);
    else {
      out.setUint8(i * 3, whole & 255);
      out.setInt16(i * 3 + 1, whole >> 8, true);
    }
  }
  return out.buffer as ArrayBuffer;
}
