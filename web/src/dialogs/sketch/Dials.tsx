import "@mantine/core/styles/Slider.css";
import { RangeSlider } from "@mantine/core";
import { useState } from "react";
import type { Dial } from "../../api/gen/sketch.gen";
import type { Sketching } from "../../api/gen/server.gen";
import { Choice } from "../../controls/Choice";
import { TextBox } from "../../controls/TextBox";
import css from "./sketch.module.css";

export type Set = Record<string, number | [number, number] | string>;

interface Props {
  offered: Sketching;
  set: Set;
  onChange: (set: Set) => void;
}

const contourWords: Record<string, string> = {
  free: "goes as it likes",
  rise: "rises",
  fall: "falls",
  arch: "an arch",
  bowl: "a bowl",
  fan: "opens",
  gather: "closes",
};

/** The dials, as spans on lines: each is drawn between its two ends, sketch by sketch. */
export function Dials({ offered, set, onChange }: Props) {
  return (
    <div className={css.dials}>
      <div className={css.course}>
        <label>
          <span>contour</span>
          <Choice
            label="Contour"
            value={String(set.contour ?? offered.contours[0])}
            all={offered.contours}
            words={contourWords}
            onChange={(contour) => onChange({ ...set, contour })}
          />
        </label>
        <label title="A letter for each equal part: equal letters are equal parts">
          <span>form</span>
          <TextBox
            label="Form"
            className="mono"
            value={String(set.form ?? "")}
            mayBeEmpty
            placeholder="AABA"
            onChange={(form) => onChange({ ...set, form: form.trim().toUpperCase() })}
          />
        </label>
      </div>
      {offered.dials.map((d) => (
        <Line
          key={d.name}
          dial={d}
          value={spanOf(set[d.name] ?? d.default)}
          onChange={(span) => onChange({ ...set, [d.name]: span })}
        />
      ))}
    </div>
  );
}

export const spanOf = (value: number | [number, number] | string): [number, number] =>
  Array.isArray(value) ? value : [Number(value), Number(value)];

/** One dial: a line with its span. */
function Line({
  dial,
  value,
  onChange,
}: {
  dial: Dial;
  value: [number, number];
  onChange: (span: [number, number]) => void;
}) {
  const [moving, setMoving] = useState<[number, number] | null>(null);
  const shown = moving ?? value;
  return (
    <div className={css.dial}>
      <span>
        {dial.name}{" "}
        <small>
          {dial.lowSays} to {dial.highSays}
        </small>
      </span>
      <span className="mono">
        {shown[0] === shown[1] ? shown[0] : `${shown[0]}..${shown[1]}`}
        {dial.unit && ` ${dial.unit}`}
      </span>
      <RangeSlider
        className={css.line}
        size={2}
        min={dial.low}
        max={dial.high}
        minRange={0}
        label={null}
        value={shown}
        thumbFromLabel={`Least ${dial.name}`}
        thumbToLabel={`Most ${dial.name}`}
        onChange={setMoving}
        onChangeEnd={(span) => {
          setMoving(null);
          onChange(span);
        }}
      />
    </div>
  );
}
