import { useApp } from "../state/store";
import css from "./Notices.module.css";

/** What went wrong last. */
export function ErrorNote() {
  const error = useApp((s) => s.error);
  if (!error) return null;
  return (
    <div className={css.error} role="alert">
      <span>{error}</span>
      <button onClick={() => useApp.getState().set({ error: "" })}>Close</button>
    </div>
  );
}
