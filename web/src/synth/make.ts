import { Kit } from "./kit";
import { Mono } from "./mono";
import { Poly } from "./poly";
import type { Timbre } from "./protocol";
import type { Source } from "./source";
import { pad, plucks, warmKeys } from "./timbres";

type Maker = (rate: number, timbre: Timbre) => Source;

const mono: Maker = (rate, { portamento }) => new Mono(rate, portamento);

/** How each voice of the document is made; what the sound tab tells of it stands in audio/voices.ts. */
const makers: Readonly<Record<string, Maker>> = {
  bass: mono,
  pluck: (rate, timbre) => (timbre.many ? new Poly(rate, plucks) : mono(rate, timbre)),
  keys: (rate) => new Poly(rate, warmKeys),
  pad: (rate) => new Poly(rate, pad),
  kit: (rate) => new Kit(rate),
};

export function make(rate: number, timbre: Timbre): Source {
  const maker = makers[timbre.sound.voice];
  if (!maker) throw new Error(`there is no voice ${timbre.sound.voice}`);
  return maker(rate, timbre);
}
