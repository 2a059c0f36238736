import { useRef } from "react";
import type { Modulator } from "../../api/gen/piece.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { onEscape } from "../../controls/hands";
import { stepped } from "../../canvas/rails/draw";

const WIDTH = 224;
const HEIGHT = 44;
/** How many levels a new shape of levels is drawn with. */
const PAD = 4;

interface Props {
  view: LaneView;
  index: number;
  /** As it is shown while it is dragged, and as it is kept. */
  m: Modulator;
  kept: Modulator;
  low: number;
  high: number;
  /** Told of every move, and once of the end: what it comes to, or nothing where it is given up. */
  onMove: (part: Partial<Modulator>) => void;
  onDone: (part: Partial<Modulator> | null) => void;
}

/** How much finer a hand moves with Shift. */
const FINE = 8;

/** One period of a modulator. Dragged up and down it moves the nearer end, with Shift finely; across, the phase;
 * of levels in turn each is drawn. */
export function Wave({ view, index, m, kept, low, high, onMove, onDone }: Props) {
  const drag = useRef<{
    x: number;
    y: number;
    end: "from" | "to";
    part: Partial<Modulator>;
    was: Modulator;
    leave: () => void;
  } | null>(null);
  const finish = (part: Partial<Modulator> | null) => {
    drag.current?.leave();
    drag.current = null;
    onDone(part);
  };
  const curve = view.curves.find((c) => c.modulator === index);
  const y = (value: number) => PAD + (1 - (value - low) / Math.max(high - low, 1)) * (HEIGHT - 2 * PAD);
  // The server worked the curve out; while its ends are dragged it is stretched with them.

  const stretch = (value: number) =>
    kept.to === kept.from ? m.from : m.from + ((value - kept.from) * (m.to - m.from)) / (kept.to - kept.from);
  const points = curve
    ? curve.at
        .map((at, i) => [at, curve.value[i]!] as const)
        .filter(([at]) => at < curve.every)
        .flatMap(([at, value], i, all) => {
          const px = ((at / curve.every) * WIDTH).toFixed(1);
          const stands = i > 0 && stepped.has(m.shape);
          return [
            ...(stands ? [`${px},${y(stretch(all[i - 1]![1])).toFixed(1)}`] : []),
            `${px},${y(stretch(value)).toFixed(1)}`,
          ];
        })
    : [];
  const place = (e: React.PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: ((e.clientX - box.left) / box.width) * WIDTH, y: ((e.clientY - box.top) / box.height) * HEIGHT };
  };
  const valueAt = (py: number) =>
    Math.round(Math.min(Math.max(low + (1 - (py - PAD) / (HEIGHT - 2 * PAD)) * (high - low), low), high));
  const finely = ({ y: from, end, was }: { y: number; end: "from" | "to"; was: Modulator }, py: number) =>
    Math.round(Math.min(Math.max(was[end] + (valueAt(py) - valueAt(from)) / FINE, low), high));
  const levels = (p: { x: number; y: number }, list: readonly number[]) => {
    const at = Math.min(Math.max(Math.floor((p.x / WIDTH) * list.length), 0), list.length - 1);
    const span = m.to - m.from || 1;
    const share = Math.round(Math.min(Math.max(((valueAt(p.y) - m.from) / span) * 100, 0), 100));
    return list.map((v, i) => (i === at ? share : v));
  };
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`${m.shape} from ${m.from} to ${m.to}; drag up and down to move its ends, across to move its phase`}
      onPointerDown={(e) => {
        const p = place(e);
        e.currentTarget.setPointerCapture(e.pointerId);
        const end = Math.abs(p.y - y(m.from)) <= Math.abs(p.y - y(m.to)) ? "from" : "to";
        const part = m.shape === "steps" ? { values: levels(p, m.values) } : {};
        drag.current = { ...p, end, part, was: kept, leave: onEscape(() => finish(null)) };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        const p = place(e);
        if (m.shape === "steps") d.part = { values: levels(p, d.part.values ?? m.values) };
        else if (Math.abs(p.x - d.x) > Math.abs(p.y - d.y) && Math.abs(p.x - d.x) > 4)
          d.part = { phase: (((d.was.phase - Math.round(((p.x - d.x) / WIDTH) * 100)) % 100) + 100) % 100 };
        else if (Math.abs(p.y - d.y) > 1) d.part = { [d.end]: e.shiftKey ? finely(d, p.y) : valueAt(p.y) };
        onMove(d.part);
      }}
      onPointerUp={() => drag.current && finish(drag.current.part)}
      onPointerCancel={() => drag.current && finish(null)}
    >
      {[m.from, m.to].map((value, i) => (
        <line key={i} x1={0} x2={WIDTH} y1={y(value)} y2={y(value)} stroke="var(--rule-strong)" strokeDasharray="2 3" />
      ))}
      <polyline
        points={points.join(" ")}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.6}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
