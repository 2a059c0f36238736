import { useLayoutEffect, useRef, useState } from "react";
import { whileHeld } from "../state/store";
import { Refused } from "./Refused";
import { useTyping } from "./typing";

interface Props {
  id?: string;
  label: string;
  value: number | null;
  low: number;
  high: number;
  onChange: (value: number) => void;
  /** Shown when several selected things differ. */
  mixed?: boolean;
  step?: number;
  disabled?: boolean;
}

/** A number with its limits: typed and sent with Enter or on leaving, stepped
 * with the arrows, heard while they are held and kept once they are let go. A value out of range
 * is refused in place with what is allowed. */
export function NumberBox({ id, label, value, low, high, onChange, mixed = false, step = 1, disabled = false }: Props) {
  const input = useRef<HTMLInputElement>(null);
  // What is being typed stays, even when the value changes under it meanwhile.
  const { text, type, problem, handlers } = useTyping({
    label,
    check: (typed) =>
      typed.trim() === "" || (Number(typed) >= low && Number(typed) <= high) ? "" : `Allowed: ${low} to ${high}.`,
    send: (typed) => {
      if (typed.trim() !== "" && (mixed || Number(typed) !== value)) onChange(Number(typed));
    },
  });
  /** Where the arrows have gone, while one is held. */
  const [held, setHeld] = useState<number | null>(null);
  const holds = useRef<number | null>(null);
  const hold = (to: number | null) => {
    holds.current = to;
    setHeld(to);
  };
  /** The same, until the value has come there. */
  const gone = useRef<number | null>(null);
  // A value that changes under the focus is selected again, so that what is typed next
  // takes its place and is not put behind it.
  useLayoutEffect(() => {
    if (gone.current === value) gone.current = null;
    if (text === null && document.activeElement === input.current) input.current?.select();
  }, [value, text, held]);
  const nudge = (by: number) => {
    const base = text !== null && text.trim() !== "" && !problem ? Number(text) : (gone.current ?? value ?? low);
    type(null);
    const next = Math.min(Math.max(Math.round((base + by) * 1000) / 1000, low), high);
    gone.current = next;
    hold(next);
    whileHeld(() => onChange(next));
  };
  const letGo = () => {
    const to = holds.current;
    hold(null);
    if (to !== null) onChange(to);
  };
  const leave = () => {
    if (holds.current !== null) whileHeld(() => {}); // nothing of it is left
    hold(null);
    gone.current = null;
  };
  return (
    <>
      <input
        ref={input}
        id={id}
        aria-label={label}
        aria-invalid={problem !== ""}
        title={label}
        className="mono"
        inputMode="decimal"
        disabled={disabled}
        placeholder={mixed ? "mixed" : undefined}
        value={text ?? (held !== null ? String(held) : mixed || value === null ? "" : String(value))}
        style={problem ? { borderColor: "var(--wrong)", color: "var(--wrong)" } : undefined}
        {...handlers}
        onFocus={(e) => e.target.select()}
        onBlur={() => {
          letGo();
          gone.current = null;
          handlers.onBlur();
        }}
        onKeyUp={(e) => {
          if (e.key === "ArrowUp" || e.key === "ArrowDown") letGo();
        }}
        onKeyDown={(e) => {
          if (e.key === "Escape") leave();
          handlers.onKeyDown(e);
          if (e.key === "ArrowUp" || e.key === "ArrowDown") {
            e.preventDefault();
            nudge((e.key === "ArrowUp" ? 1 : -1) * step * (e.shiftKey ? 10 : 1));
          }
        }}
      />
      <Refused by={input} problem={problem} />
    </>
  );
}
