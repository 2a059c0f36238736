interface Props {
  id?: string;
  label: string;
  value: string;
  all: readonly string[];
  /** What is shown for a word; the word itself unless given. */
  words?: Readonly<Record<string, string>>;
  onChange: (value: string) => void;
}

/** One of a few words. */
export function Choice({ id, label, value, all, words, onChange }: Props) {
  return (
    <select id={id} aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {all.map((word) => (
        <option key={word} value={word}>
          {words?.[word] ?? word}
        </option>
      ))}
    </select>
  );
}
