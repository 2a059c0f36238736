import { useLayoutEffect, useRef } from "react";
import { lastHand } from "../controls/hands";
import { useOpening } from "../controls/opening";
import { useApp } from "../state/store";
import css from "./Notices.module.css";
import { Said } from "../controls/Said";

/** What could not be kept yet, or else what was refused or remarked last. */
export function ErrorNote() {
  const said = useApp((s) => s.error || s.remark);
  const refused = useApp((s) => s.error !== "");
  const unsaved = useApp((s) => s.unsaved);
  // What lies open over the page says it itself.
  const elsewhere = useApp((s) => s.panel !== null);
  const open = useOpening((s) => s.open.length > 0);
  if (unsaved) {
    return (
      <div className={css.error} role="alert">
        <span>Not saved: {unsaved.problem} Your edits are kept here, and tried again by themselves.</span>
        <button onClick={unsaved.again}>Try again now</button>
        <button onClick={unsaved.drop}>Drop this edit</button>
      </div>
    );
  }
  return said && !elsewhere && !open ? <Note key={said} refused={refused} /> : null;
}

/** What was said, where the hand is. */
function Note({ refused }: { refused: boolean }) {
  const note = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const [el, hand] = [note.current, lastHand()];
    if (!el || !hand) return;
    const { offsetWidth: width, offsetHeight: height } = el;
    const left = Math.max(6, Math.min(hand.x - 20, window.innerWidth - width - 6));
    const under = hand.y + 18;
    Object.assign(el.style, {
      left: `${left}px`,
      top: `${under + height > window.innerHeight ? Math.max(6, hand.y - height - 18) : under}px`,
      bottom: "auto",
      transform: "none",
    });
  }, []);
  return (
    <div ref={note} className={css.error} data-refused={refused} role={refused ? "alert" : "status"}>
      <Said />
      <button onClick={() => useApp.getState().set({ error: "", remark: "", mends: [] })}>Close</button>
    </div>
  );
}
