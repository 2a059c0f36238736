import { Checkbox, SegmentedControl } from "@mantine/core";
import { PPQ } from "../../api/gen/view.gen";
import { useApp } from "../../state/store";
import css from "./ExportPanel.module.css";

/** How a file is written. */
interface Form {
  ppq: string;
  type: string;
  /** Whether chords are named in it. */
  names: boolean;
}

export const usual: Form = { ppq: `${PPQ}`, type: "1", names: true };

interface Props {
  value: Form;
  onChange: (value: Form) => void;
  /** Whether there are chords to name. */
  chords: boolean;
}

/** Resolution, type, and whether chords are named. */
export function Format({ value, onChange, chords }: Props) {
  const words = useApp((s) => s.words)!;
  return (
    <>
      <div className={css.row}>
        <span>Resolution</span>
        <div className={css.inline}>
          <SegmentedControl
            size="xs"
            aria-label="Ticks a quarter"
            value={value.ppq}
            onChange={(ppq) => onChange({ ...value, ppq })}
            data={words.ppqs.map(String)}
          />
          <span className="quiet">ticks a quarter</span>
          <SegmentedControl
            size="xs"
            aria-label="Type of file"
            value={value.type}
            onChange={(type) => onChange({ ...value, type })}
            data={[
              { value: "1", label: "Type 1" },
              { value: "0", label: "Type 0" },
            ]}
          />
        </div>
      </div>
      {chords && (
        <div className={css.row}>
          <span>Chords</span>
          <Checkbox
            size="xs"
            label="Write their names in, as markers where they begin"
            checked={value.names}
            onChange={(e) => onChange({ ...value, names: e.currentTarget.checked })}
          />
        </div>
      )}
    </>
  );
}
