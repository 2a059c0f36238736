import { useRef, useState } from "react";
import { useApp, whileHeld } from "../state/store";
import { Slider } from "./Slider";

interface Props {
  label: string;
  low: number;
  high: number;
  value: number;
  /** Makes the edit of a value. */
  onChange: (value: number) => void;
}

/** A slider whose moves are tried while it is held, and one edit once it is let go; Esc puts back what was. */
export function HeldSlider({ label, low, high, value, onChange }: Props) {
  const [moved, setMoved] = useState<number | null>(null);
  const latest = useRef<number | null>(null);
  const take = (next: number | null) => {
    latest.current = next;
    setMoved(next);
  };
  return (
    <Slider
      label={label}
      low={low}
      high={high}
      value={moved ?? value}
      onMove={(to) => {
        take(to);
        whileHeld(() => onChange(to));
      }}
      onLet={() => {
        const to = latest.current;
        take(null);
        if (to !== null) onChange(to);
      }}
      onLeave={() => {
        const was = latest.current !== null;
        take(null);
        if (was) useApp.getState().leave();
        return was;
      }}
    />
  );
}
