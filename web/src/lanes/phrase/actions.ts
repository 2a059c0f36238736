import { addLanes, makeLanes } from "../../state/actions";
import { useApp } from "../../state/store";

/** Adds a phrase of eight steps, all of which walk on. */
export const addPhrase = (): Promise<void> =>
  addLanes([
    { kind: "phrase", name: "Phrase", patch: { octave: 4, steps: Array.from({ length: 8 }, () => ({ on: true })) } },
  ]);

/** Writes a phrase out as lines that sound the same for so many bars. */
export const writeOut = (lane: string, bars: number): void =>
  void makeLanes([{ op: "phrase.print", clip: useApp.getState().clip, lane, bars }]);
