import { useState } from "react";

interface Props {
  id?: string;
  label: string;
  value: string;
  /** Told when Enter is pressed or the field left, if the text is another one. */
  onChange: (value: string) => void;
  onLeave?: () => void;
  /** Whether an empty text counts; otherwise the old one comes back. */
  mayBeEmpty?: boolean;
  maxLength?: number;
  placeholder?: string;
  className?: string;
  style?: React.CSSProperties;
  disabled?: boolean;
  autoFocus?: boolean;
}

/** A text that is sent with Enter or on leaving; Escape brings the old one back. */
export function TextBox({ id, label, value, onChange, onLeave, mayBeEmpty = false, ...rest }: Props) {
  const [text, setText] = useState<string | null>(null);
  const send = () => {
    const next = text?.trim();
    if (next !== undefined && next !== value && (next || mayBeEmpty)) onChange(next);
    setText(null);
  };
  return (
    <input
      {...rest}
      id={id}
      aria-label={label}
      value={text ?? value}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        send();
        onLeave?.();
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") {
          send();
          if (onLeave) e.currentTarget.blur();
        }
        if (e.key === "Escape") {
          setText(null);
          onLeave?.();
        }
      }}
    />
  );
}
