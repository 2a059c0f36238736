import { useApp } from "../state/store";
import css from "./Said.module.css";

/** What was refused or remarked last, with the edits to choose from; null: nothing. */
export function Said() {
  const error = useApp((s) => s.error);
  const remark = useApp((s) => s.remark);
  const mends = useApp((s) => s.mends);
  if (!error && !remark) return null;
  return (
    <>
      <span className={error ? css.wrong : undefined}>{error || remark}</span>
      {mends.map((mend) => (
        <button type="button" key={mend.label} onClick={() => void useApp.getState().edit(mend.ops)}>
          {mend.label}
        </button>
      ))}
    </>
  );
}
