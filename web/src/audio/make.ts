import { Kit } from "./kit";
import { Mono } from "./mono";
import { pad, plucks, Poly, warmKeys } from "./poly";
import type { Setting, Voice } from "./voices";

const mono = ({ out, portamento }: Setting) => new Mono(out, portamento);

/** How each voice is made. */
export const make: Readonly<Record<string, (setting: Setting) => Voice>> = {
  bass: mono,
  pluck: (setting) => (setting.many ? new Poly(setting.out, plucks) : mono(setting)),
  keys: ({ out }) => new Poly(out, warmKeys),
  pad: ({ out }) => new Poly(out, pad),
  kit: ({ out }) => new Kit(out),
};
