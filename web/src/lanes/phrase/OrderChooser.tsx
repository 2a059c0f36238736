import { useState } from "react";
import type { Shape } from "../../api/gen/phrase.gen";
import { useShapes } from "../../api/queries";
import { Popup } from "../../controls/Popup";
import { setLane } from "../../state/actions";
import { useApp } from "../../state/store";
import type { PhraseLane } from "./phrase";
import css from "./phrase.module.css";

/** The order, chosen among small drawings of its shape over the very tones it would walk. */
export function OrderChooser({ lane }: { lane: PhraseLane }) {
  const named = typeof lane.order === "string" ? lane.order : `own: ${lane.order.join(" ")}`;
  return (
    <Popup
      button={
        <button className={css.order} aria-label={`Order of ${lane.name}: ${named}`}>
          {named} ▾
        </button>
      }
      position="right-start"
      width={330}
      trapFocus
      className={css.orders}
    >
      {(close) => <Orders lane={lane} leave={close} />}
    </Popup>
  );
}

function Orders({ lane, leave }: { lane: PhraseLane; leave: () => void }) {
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const clip = useApp((s) => s.clip);
  const { data: shapes } = useShapes(id, version, clip, lane.id);
  const [text, setText] = useState(typeof lane.order === "string" ? "" : lane.order.join(" "));
  const choose = (order: string | number[]) => {
    setLane(lane.id, { order });
    leave();
  };
  return (
    <>
      {shapes?.map((shape) => (
        <button key={shape.name} aria-pressed={lane.order === shape.name} onClick={() => choose(shape.name)}>
          <Way shape={shape} />
          {shape.name}
        </button>
      ))}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          const rungs = text
            .split(/[\s,]+/)
            .filter(Boolean)
            .map(Number);
          if (rungs.length) choose(rungs);
        }}
      >
        <label htmlFor={`own-${lane.id}`}>Its own</label>
        <input
          id={`own-${lane.id}`}
          aria-label={`Rungs of ${lane.name} in an order of its own`}
          placeholder="1 3 2 5"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </form>
    </>
  );
}

/** The way that an order takes, rung by rung. */
function Way({ shape }: { shape: Shape }) {
  const x = (i: number) => 4 + (i * 64) / Math.max(shape.way.length - 1, 1);
  const y = (rung: number) => 25 - (rung * 20) / Math.max(shape.rungs - 1, 1);
  return (
    <svg width="72" height="30" aria-hidden>
      <polyline
        points={shape.way.map((r, i) => `${x(i)},${y(r)}`).join(" ")}
        fill="none"
        stroke="var(--ink-2)"
        strokeWidth="1"
      />
      {shape.way.map((r, i) => (
        <rect key={i} x={x(i) - 1.6} y={y(r) - 1.6} width="3.2" height="3.2" fill="var(--ink)" />
      ))}
    </svg>
  );
}
