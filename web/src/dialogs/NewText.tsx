import { useRef } from "react";
import { Refused } from "../controls/Refused";
import { tooLong } from "../controls/TextBox";

interface Props {
  label: string;
  value: string;
  longest: number;
  onChange: (value: string) => void;
  style?: React.CSSProperties;
}

/** The name of something that a dialog makes: the field that matters in it. A text that is too
 * long is refused, not cut. */
export function NewText({ label, value, longest, onChange, style }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const problem = tooLong(value, longest);
  return (
    <>
      <input
        ref={input}
        data-autofocus
        aria-label={label}
        aria-invalid={problem !== ""}
        value={value}
        style={style}
        onFocus={(e) => e.target.select()}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => problem && e.key === "Enter" && e.preventDefault()}
      />
      <Refused by={input} problem={problem} />
    </>
  );
}
