import { Choice } from "./Choice";
import { labelOf, type ChoiceFact, type NumberFact } from "../api/facts";
import { NumberBox } from "./NumberBox";

interface NumberProps {
  id: string;
  fact: NumberFact;
  /** The accessible name; the field's own unless given. */
  label?: string;
  value: number | null;
  high?: number;
  mixed?: boolean;
  onChange: (value: number) => void;
}

/** A label and a number, with the range that the document's table states. */
export function NumberField({ id, fact, label, value, high, mixed, onChange }: NumberProps) {
  return (
    <>
      <label htmlFor={id} title={fact.doc}>
        {labelOf(fact)}
      </label>
      <NumberBox
        id={id}
        label={label ?? labelOf(fact)}
        value={value}
        mixed={mixed}
        low={fact.low}
        high={high ?? fact.high}
        onChange={onChange}
      />
    </>
  );
}

interface ChoiceProps {
  id: string;
  fact: ChoiceFact;
  label?: string;
  value: string;
  words?: Readonly<Record<string, string>>;
  onChange: (value: string) => void;
}

/** A label and a choice of the words that the document's table states. */
export function ChoiceField({ id, fact, label, value, words, onChange }: ChoiceProps) {
  return (
    <>
      <label htmlFor={id} title={fact.doc}>
        {fact.title}
      </label>
      <Choice id={id} label={label ?? fact.title} value={value} all={fact.choices} words={words} onChange={onChange} />
    </>
  );
}
