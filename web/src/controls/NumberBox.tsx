import { useLayoutEffect, useRef, useState } from "react";

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
  // What is being typed stays, even when the value changes under it meanwhile.
  const [text, setText] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  // A value that changes under the focus is selected again, so that what is typed next
  // takes its place and is not put behind it.
  useLayoutEffect(() => {
    if (text === null && document.activeElement === input.current) input.current?.select();
  }, [value, text]);
  const shown = text ?? (mixed || value === null ? "" : String(value));
  const wrong =
    text !== null && text !== "" && !(Number(text) >= low && Number(text) <= high && Number.isFinite(Number(text)));
  const send = () => {
    if (text !== null && text !== "" && !wrong && (mixed || Number(text) !== value)) onChange(Number(text));
    if (!wrong) setText(null);
  };
  const nudge = (by: number) => {
    const base = text !== null && text !== "" && !wrong ? Number(text) : (value ?? low);
    setText(null);
    onChange(Math.min(Math.max(Math.round((base + by) * 1000) / 1000, low), high));
  };
  return (
    <input
      ref={input}
      id={id}
      aria-label={label}
      aria-invalid={wrong}
      title={wrong ? `Allowed: ${low} to ${high}` : label}
      className="mono"
      inputMode="decimal"
      disabled={disabled}
      placeholder={mixed ? "mixed" : undefined}
      value={shown}
      style={wrong ? { borderColor: "var(--wrong)", color: "var(--wrong)" } : undefined}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        send();
        setText(null);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") send();
        if (e.key === "Escape") setText(null);
        if (e.key === "ArrowUp" || e.key === "ArrowDown") {
          e.preventDefault();
          nudge((e.key === "ArrowUp" ? 1 : -1) * step * (e.shiftKey ? 10 : 1));
        }
      }}
    />
  );
}
