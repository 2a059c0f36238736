import { useEffect, useRef } from "react";
import { playPosition } from "../audio/player";
import { useSheet } from "./sheetState";
import css from "./Sheet.module.css";

/** The playhead: moved every frame without drawing anything else. */
export function Playhead({ left, inSheet = true }: { left: number; inSheet?: boolean }) {
  const el = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let frame = 0;
    const step = () => {
      const at = playPosition();
      const { zoom, scroll, width } = useSheet.getState();
      if (el.current) {
        const x = inSheet ? at.tick * zoom - scroll : at.share * width;
        el.current.style.display = at.playing && x >= 0 && x <= width ? "block" : "none";
        el.current.style.transform = `translateX(${left + x}px)`;
        el.current.dataset.tick = String(Math.round(at.tick));
      }
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [left, inSheet]);
  return <div ref={el} className={css.playhead} data-testid={inSheet ? "playhead" : undefined} style={{ display: "none" }} />;
}
