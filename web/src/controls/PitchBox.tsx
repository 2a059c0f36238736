import { NumberBox } from "./NumberBox";

/** A lowest and a highest MIDI pitch. */
export function PitchBox({
  label,
  low,
  high,
  onChange,
}: {
  label: string;
  low: number;
  high: number;
  onChange: (part: { low: number } | { high: number }) => void;
}) {
  return (
    <span style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 4 }}>
      <NumberBox label={`${label}: low`} value={low} low={0} high={127} onChange={(v) => onChange({ low: v })} />
      <NumberBox label={`${label}: high`} value={high} low={0} high={127} onChange={(v) => onChange({ high: v })} />
    </span>
  );
}
