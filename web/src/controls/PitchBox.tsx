import { useSemitones } from "../api/queries";
import { useApp } from "../state/store";
import { NumberBox } from "./NumberBox";

interface Props {
  label: string;
  low: number;
  high: number;
  onChange: (part: { low: number } | { high: number }) => void;
}

/** A lowest and a highest MIDI pitch, as numbers and as the notes that they are. */
export function PitchBox({ label, low, high, onChange }: Props) {
  const { id, version, clip } = useApp();
  const semitones = useSemitones(id, version, clip).data ?? [];
  const nameOf = (pitch: number) => semitones.find((r) => r.pitch === pitch)?.name ?? "";
  return (
    <span style={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 4 }}>
      <NumberBox label={`${label}: low`} value={low} low={0} high={127} onChange={(v) => onChange({ low: v })} />
      <NumberBox label={`${label}: high`} value={high} low={0} high={127} onChange={(v) => onChange({ high: v })} />
      <span className="mono quiet" data-testid="range-notes" style={{ gridColumn: "1 / -1", fontSize: 11.5 }}>
        {nameOf(low)} … {nameOf(high)}
      </span>
    </span>
  );
}
