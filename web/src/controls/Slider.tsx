import { useRef } from "react";

interface Props {
  id?: string;
  label?: string;
  low: number;
  high: number;
  value: number;
  /** Told of every move. */
  onMove: (value: number) => void;
  /** Told when it is let go. */
  onLet?: () => void;
  /** Told of Esc: what was is put back. False: nothing had moved, and Esc is for others. */
  onLeave?: () => boolean;
}

/** A slider that tells of its moves while it is held. After Esc a hand that still holds it moves nothing. */
export function Slider({ id, label, low, high, value, onMove, onLet, onLeave }: Props) {
  const left = useRef(false);
  return (
    <input
      id={id}
      aria-label={label}
      type="range"
      min={low}
      max={high}
      value={value}
      onChange={(e) => !left.current && onMove(Number(e.currentTarget.value))}
      onPointerDown={() => (left.current = false)}
      onPointerUp={onLet}
      onKeyUp={onLet}
      onBlur={onLet}
      onKeyDown={(e) => {
        left.current = e.key === "Escape" && !!onLeave?.();
        if (left.current) e.stopPropagation();
      }}
    />
  );
}
