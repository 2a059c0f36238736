import { useRef, useState, type ChangeEvent, type KeyboardEvent } from "react";
import { useApp } from "../state/store";
import { giveBack } from "./hands";

interface Typing {
  /** How messages call the field. */
  label: string;
  /** What is wrong with a text; empty: nothing. */
  check: (text: string) => string;
  send: (text: string) => void;
  onLeave?: () => void;
  /** What is typed is to be looked at before a dialog goes on: Enter only sends it. */
  holds?: boolean;
}

/** What is being typed into a field. Enter and leaving it send it; Escape drops it; both keys
 * give the keys back to the sheet. Within a dialog, which keeps them, Enter sends it at once and
 * goes on to the dialog's own. What is wrong is said at the field, and Enter does not leave it;
 * who leaves all the same is told that it stays as it was. */
export function useTyping({ label, check, send, onLeave, holds = false }: Typing) {
  const [text, setText] = useState<string | null>(null);
  // What was sent or dropped is not sent once more by the field that loses the focus.
  const typed = useRef<string | null>(null);
  const type = (next: string | null) => {
    typed.current = next;
    setText(next);
  };
  /** Sends what was typed; false: it is wrong. */
  const sent = (): boolean => {
    const last = typed.current;
    if (last !== null && check(last)) return false;
    type(null);
    if (last !== null) send(last);
    return true;
  };
  return {
    text,
    type,
    problem: text === null ? "" : check(text),
    handlers: {
      onChange: (e: ChangeEvent<HTMLInputElement>) => type(e.target.value),
      onBlur: () => {
        if (!sent()) {
          useApp.getState().set({ error: `${label}: ${check(typed.current!)} It stays as it was.` });
          type(null);
        }
        onLeave?.();
      },
      onKeyDown: (e: KeyboardEvent<HTMLInputElement>) => {
        if (e.key === "Escape") type(null);
        const typing = typed.current !== null;
        if (e.key === "Enter" && (!sent() || (typing && holds))) e.preventDefault();
        // A form goes on with Enter: what it does gives the keys back.
        else if (e.key === "Escape" || (e.key === "Enter" && !e.currentTarget.form)) giveBack();
      },
    },
  };
}
