import { SegmentedControl } from "@mantine/core";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What is chosen among, with its words; numbers come in rising order. */
  all: Readonly<Record<string, string>>;
}

/** A choice of a few, all in sight. */
export function Segments({ label, value, onChange, all }: Props) {
  const data = Object.entries(all).map(([v, words]) => ({ value: v, label: words }));
  return <SegmentedControl size="xs" aria-label={label} value={value} onChange={onChange} data={data} />;
}
