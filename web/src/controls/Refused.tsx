import { useLayoutEffect, useRef, type RefObject } from "react";
import { createPortal } from "react-dom";
import css from "./Refused.module.css";

/** What is wrong with what is being typed, said right under the field. */
export function Refused({ by, problem }: { by: RefObject<HTMLElement | null>; problem: string }) {
  const note = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    const box = by.current?.getBoundingClientRect();
    if (!note.current || !box) return;
    const most = window.innerWidth - note.current.offsetWidth - 4;
    note.current.style.left = `${Math.max(4, Math.min(box.left, most))}px`;
    note.current.style.top = `${box.bottom + 3}px`;
  }, [by, problem]);
  if (!problem) return null;
  return createPortal(
    <span ref={note} className={css.refused} role="alert">
      {problem}
    </span>,
    document.body,
  );
}
