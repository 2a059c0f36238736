import { useLayoutEffect, useRef } from "react";
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
 * with the arrows. A value out of range is refused in place with what is allowed. */
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
  // A value that changes under the focus is selected again, so that what is typed next
  // takes its place and is not put behind it.
  useLayoutEffect(() => {
    if (text === null && document.activeElement === input.current) input.current?.select();
  }, [value, text]);
  const nudge = (by: number) => {
    const base = text !== null && text.trim() !== "" && !problem ? Number(text) : (value ?? low);
    type(null);
    onChange(Math.min(Math.max(Math.round((base + by) * 1000) / 1000, low), high));
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
        value={text ?? (mixed || value === null ? "" : String(value))}
        style={problem ? { borderColor: "var(--wrong)", color: "var(--wrong)" } : undefined}
        {...handlers}
        onFocus={(e) => e.target.select()}
        onKeyDown={(e) => {
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
