import type { Place } from "../../api/gen/pitch.gen";

/** Tones as they are written in a field: degrees, with their signs before and octaves after
 * them, as in "1 b3 5 1+1". */
export const writeTones = (tones: readonly Place[]): string =>
  tones
    .map(({ degree, octave, alter }) => {
      const sign = (alter < 0 ? "b" : "#").repeat(Math.abs(alter));
      return `${sign}${degree}${octave ? `${octave > 0 ? "+" : ""}${octave}` : ""}`;
    })
    .join(" ");

const written = /^(b*|#*)([1-9]\d?)([+-]\d)?$/;

const words = (text: string) => text.split(/[\s,]+/).filter(Boolean);

/** What is wrong with written tones; empty: nothing. */
export function wrongTones(text: string): string {
  const wrong = words(text).find((word) => !written.test(word));
  return wrong ? `“${wrong}” is not a tone: write degrees, as in 1 b3 5 1+1.` : "";
}

export const readTones = (text: string): Place[] =>
  words(text).map((word) => {
    const [, sign = "", degree, octave] = written.exec(word)!;
    return {
      degree: Number(degree),
      octave: Number(octave ?? 0),
      alter: sign.startsWith("b") ? -sign.length : sign.length,
    };
  });
