import { bodies } from "./bodies";
import { Kit } from "./kit";
import { Many } from "./many";
import type { Timbre } from "./protocol";
import { Single } from "./single";
import type { Source } from "./source";

/** Makes the voice of a timbre; what the sound tab tells of it stands in audio/voices.ts. */
export function make(rate: number, { sound, many, portamento }: Timbre): Source {
  if (sound.voice === "kit") return new Kit(rate);
  const body = bodies[sound.voice];
  if (!body) throw new Error(`there is no voice ${sound.voice}`);
  return many ? new Many(rate, body) : new Single(rate, body, portamento);
}
