import { addLanes } from "../../state/actions";

/** Adds a phrase of eight steps, all of which walk on. */
export const addPhrase = (): Promise<void> =>
  addLanes([
    { kind: "phrase", name: "Phrase", patch: { octave: 4, steps: Array.from({ length: 8 }, () => ({ on: true })) } },
  ]);
