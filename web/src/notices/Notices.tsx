import { useApp } from "../state/store";
import css from "./Notices.module.css";

/** What could not be kept yet, or else what went wrong last. */
export function ErrorNote() {
  const error = useApp((s) => s.error);
  const unsaved = useApp((s) => s.unsaved);
  const panel = useApp((s) => s.panel);
  if (unsaved) {
    return (
      <div className={css.error} role="alert">
        <span>Not saved: {unsaved.problem} Your edits are kept here, and tried again by themselves.</span>
        <button onClick={unsaved.again}>Try again now</button>
        <button onClick={unsaved.drop}>Drop this edit</button>
      </div>
    );
  }
  if (!error || panel) return null; // a dialog says it itself
  return (
    <div className={css.error} role="alert">
      <span>{error}</span>
      <button onClick={() => useApp.getState().set({ error: "" })}>Close</button>
    </div>
  );
}
