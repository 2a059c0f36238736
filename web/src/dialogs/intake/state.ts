import { create } from "zustand";
import { useApp } from "../../state/store";

/** The file that is looked at before anything of it is taken. */
export const useIntake = create<{ file: File | null }>(() => ({ file: null }));

/** Shows what is in a MIDI file; nothing is changed yet. */
export function showFile(file: File): void {
  useIntake.setState({ file });
  useApp.getState().set({ panel: "intake", error: "", remark: "", mends: [] });
}

/** Whether a file may be one of MIDI, by its name: what it is it says itself. */
const named = (file: File): boolean => /\.(mid|midi|smf|kar)$/i.test(file.name) || file.type.includes("midi");

/** Takes what was dropped on the page: the first MIDI file of it. */
export function dropped(files: readonly File[]): void {
  const file = files.find(named) ?? files[0];
  if (!file) return;
  if (named(file)) showFile(file);
  else
    useApp
      .getState()
      .set({ error: `“${file.name}” is no MIDI file: drop one that ends in .mid.`, remark: "", mends: [] });
}

/** Lets files be dropped anywhere on the page. */
export function watchDrops(): () => void {
  const over = (e: DragEvent) => {
    if (![...(e.dataTransfer?.types ?? [])].includes("Files")) return;
    e.preventDefault();
    if (e.dataTransfer) e.dataTransfer.dropEffect = "copy";
  };
  const drop = (e: DragEvent) => {
    if (!e.dataTransfer?.files.length) return;
    e.preventDefault();
    dropped([...e.dataTransfer.files]);
  };
  window.addEventListener("dragover", over);
  window.addEventListener("drop", drop);
  return () => {
    window.removeEventListener("dragover", over);
    window.removeEventListener("drop", drop);
  };
}
