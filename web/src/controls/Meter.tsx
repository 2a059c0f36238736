import { useRef } from "react";
import { useFrames } from "../state/frames";
import { metered } from "../state/player";
import type { Metered } from "../synth/protocol";
import css from "./Meter.module.css";

/** The softest that is shown, in dB under full scale, and how fast it falls, in dB a second. */
const SOFTEST = -42;
const FALLS = 40;

/** How long it is shown that something went over full scale, in ms. */
const OVER = 1500;

/** How loud something is, as a thin line; what went over full scale shows for a while. */
export function Meter({ label, of }: { label: string; of: (now: Metered) => number }) {
  const el = useRef<HTMLSpanElement>(null);
  const shown = useRef({ level: SOFTEST, at: 0, over: Number.NEGATIVE_INFINITY });
  useFrames((last) => {
    const { current } = el;
    if (!current) return;
    const now = performance.now();
    const peak = last ? 0 : of(metered());
    const level = peak > 0 ? 20 * Math.log10(peak) : SOFTEST;
    const was = shown.current;
    const fallen = last ? SOFTEST : was.level - ((now - was.at) / 1000) * FALLS;
    const next = Math.min(Math.max(level, fallen, SOFTEST), 0);
    const over = level > 0 ? now : was.over;
    shown.current = { level: next, at: now, over };
    const share = (1 - next / SOFTEST).toFixed(2);
    if (current.dataset.share !== share) {
      current.dataset.share = share;
      current.style.setProperty("--share", share);
    }
    const goes = String(now - over < OVER);
    if (current.dataset.over !== goes) {
      current.dataset.over = goes;
      current.title = over > Number.NEGATIVE_INFINITY && goes === "true" ? `${label}: over full scale` : label;
    }
  });
  return <span ref={el} className={css.meter} role="img" aria-label={label} title={label} data-meter />;
}
