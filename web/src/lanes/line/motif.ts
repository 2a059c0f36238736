import { many } from "../../words";
import { useApp } from "../../state/store";
import { useHands } from "../notes/state";

/** Takes the selected steps as the motif that Alt stamps along its stroke, or forgets it. */
export function takeMotif(): void {
  const { selection, lane, set } = useApp.getState();
  const { motif, setMotif } = useHands.getState();
  const same = motif?.lane === lane && motif.steps.join() === selection.map((n) => n + 1).join();
  if (!selection.length || same) {
    setMotif(null);
    set({
      remark: motif ? "The motif is forgotten: Alt draws a contour." : "",
      error: motif ? "" : "Nothing is selected to take as a motif.",
      mends: [],
    });
    return;
  }
  setMotif({ lane, notes: [], steps: selection.map((n) => n + 1) });
  set({
    remark: `${many(selection.length, "step")} taken as the motif: hold Alt and draw to stamp it.`,
    error: "",
    mends: [],
  });
}
