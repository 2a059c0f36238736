import { Button } from "@mantine/core";
import { useEffect, useRef, useState, type FormEvent, type KeyboardEvent, type ReactNode } from "react";
import { Frame } from "./Frame";
import { forDialog } from "../controls/hands";
import { togglePlay } from "../state/player";
import { message, useApp } from "../state/store";
import { Said } from "../controls/Said";
import css from "./Dialog.module.css";

interface Props {
  title: string;
  size: number | string;
  onClose: () => void;
  /** The main thing that it is for, which Enter does from anywhere in it. While it is being done
   * it is not done again. */
  main?: () => Promise<unknown> | void;
  /** How its button is called; without one there is no row of buttons. */
  label?: string;
  /** Whether it can be done. */
  ready?: boolean;
  /** What it changes is changed already: there is nothing to cancel. */
  done?: boolean;
  /** Buttons before it. */
  more?: ReactNode;
  children: ReactNode;
}

/** A dialog: Enter does the main thing, Escape leaves, and what is refused is said in it. */
export function Dialog({ title, size, onClose, main, label, ready = true, done, more, children }: Props) {
  const error = useApp((s) => s.error);
  const [busy, setBusy] = useState(false);
  const under = useRef(false);
  useEffect(() => useApp.getState().set({ error: "", remark: "", mends: [] }), []);
  // The main thing has the focus as soon as it can be done, unless one is busy elsewhere in it.
  // Until then its row has it, lest the trap gives it to the first button there is.
  const form = useRef<HTMLFormElement>(null);
  const waiting = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const at = document.activeElement;
    if (ready && (!(at && form.current?.contains(at)) || at === waiting.current))
      form.current?.querySelector<HTMLElement>("[data-main]")?.focus({ preventScroll: true });
  }, [ready]);
  const run = async () => {
    if (!main || !ready || under.current) return;
    under.current = true;
    setBusy(true);
    try {
      await main();
    } catch (problem) {
      useApp.getState().set({ error: message(problem) });
    } finally {
      under.current = false;
      setBusy(false);
    }
  };
  // Space plays and stops, and Enter does the main thing, but where the keyboard has come to a control that wants them.
  const keyed = (e: KeyboardEvent) => {
    const own = forDialog(e.target);
    if (e.key === " " && own && useApp.getState().view) {
      e.preventDefault();
      if (e.type === "keydown" && !e.repeat) void togglePlay();
    } else if (e.key === "Enter" && e.type === "keydown" && main && (own || e.target instanceof HTMLSelectElement)) {
      e.preventDefault();
      void run();
    }
  };
  return (
    <Frame title={title} size={size} onClose={onClose}>
      <form
        ref={form}
        onKeyDown={keyed}
        onKeyUp={keyed}
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          void run();
        }}
      >
        {children}
        {error && (
          <p className={css.problem} role="alert">
            <Said />
          </p>
        )}
        {label && (
          <div ref={waiting} className={css.actions} tabIndex={-1} data-autofocus={!ready || undefined}>
            {more}
            {!done && (
              <Button variant="default" onClick={onClose}>
                Cancel
              </Button>
            )}
            <Button type="submit" disabled={!ready} loading={busy} data-main data-autofocus={ready || undefined}>
              {label}
            </Button>
          </div>
        )}
      </form>
    </Frame>
  );
}
