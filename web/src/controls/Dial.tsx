import { NumberBox } from "./NumberBox";
import { Slider } from "./Slider";
import css from "./Dial.module.css";

interface Props {
  id: string;
  /** What stands beside it, and what it is called where that is not enough. */
  name: string;
  label?: string;
  title?: string;
  low: number;
  high: number;
  value: number;
  /** Told of every move, by hand or by typing. */
  onMove: (value: number) => void;
}

/** A value that is turned while one listens: by its slider, by arrows or typed. */
export function Dial({ id, name, label = name, title, low, high, value, onMove }: Props) {
  return (
    <div className={css.dial}>
      <label htmlFor={id} title={title}>
        {name}
      </label>
      <Slider label={`Turn ${label}`} low={low} high={high} value={value} onMove={onMove} />
      <NumberBox id={id} label={label} low={low} high={high} value={value} onChange={onMove} />
    </div>
  );
}
