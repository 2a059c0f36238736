import type { ControlLane } from "./control";

/** The controllers that the built-in voices honour, by the names of the MIDI 1.0
 * specification's tables; but what it calls brightness is the cutoff of a filter here. */
export const controllers: Readonly<Record<number, string>> = {
  1: "modulation",
  5: "portamento time",
  7: "volume",
  10: "pan",
  11: "expression",
  64: "hold pedal",
  65: "portamento",
  71: "resonance",
  74: "cutoff",
};

/** What a lane moves, as it is called: "cutoff (74)". */
export function targetName(target: ControlLane["target"]): string {
  if (typeof target === "string") return target === "wheel" ? "bend wheel" : target;
  const name = controllers[target.controller];
  return name ? `${name} (${target.controller})` : `controller ${target.controller}`;
}
