import { useRef } from "react";
import { Refused } from "./Refused";
import { useTyping } from "./typing";

interface Props {
  id?: string;
  label: string;
  value: string;
  /** Told when Enter is pressed or the field left, if the text is another one. */
  onChange: (value: string) => void;
  onLeave?: () => void;
  /** Whether an empty text counts; otherwise the old one comes back. */
  mayBeEmpty?: boolean;
  /** How many characters it may have. A longer text is refused, not cut. */
  longest?: number;
  /** What else may be wrong with a text; empty: nothing. */
  check?: (text: string) => string;
  holds?: boolean;
  placeholder?: string;
  className?: string;
  style?: React.CSSProperties;
  disabled?: boolean;
  autoFocus?: boolean;
}

/** What is wrong with a text of so many characters at most. */
export function tooLong(text: string, longest = Number.POSITIVE_INFINITY): string {
  const count = [...text.trim()].length;
  return count > longest ? `At most ${longest} characters; these are ${count}.` : "";
}

/** A text that is sent with Enter or on leaving; Escape brings the old one back. */
export function TextBox({
  id,
  label,
  value,
  onChange,
  onLeave,
  mayBeEmpty = false,
  longest,
  check,
  holds,
  ...rest
}: Props) {
  const input = useRef<HTMLInputElement>(null);
  const { text, problem, handlers } = useTyping({
    label,
    check: (typed) => tooLong(typed, longest) || (check?.(typed) ?? ""),
    send: (typed) => {
      const next = typed.trim();
      if (next !== value && (next || mayBeEmpty)) onChange(next);
    },
    onLeave,
    holds,
  });
  return (
    <>
      <input
        {...rest}
        ref={input}
        id={id}
        aria-label={label}
        aria-invalid={problem !== ""}
        value={text ?? value}
        {...handlers}
      />
      <Refused by={input} problem={problem} />
    </>
  );
}
