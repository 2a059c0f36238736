import type { Times } from "../audio/performance";
import type { App } from "./app";

/** What the times of voices go by. */
export const timesOf = ({ piece, words }: App): Times => ({
  tempo: piece?.tempo ?? 120,
  portamento: words?.portamento ?? [],
  echoes: words?.echoes ?? {},
});
