import { useRef } from "react";
import { useFrames } from "../state/frames";
import { playPosition } from "../state/player";
import { useSheet, zoomOf } from "../state/sheet";
import css from "./Sheet.module.css";

/** The playhead: moved every frame without drawing anything else. */
export function Playhead({ left, main = true }: { left: number; main?: boolean }) {
  const el = useRef<HTMLDivElement>(null);
  useFrames(() => {
    const at = playPosition();
    const sheet = useSheet.getState();
    const x = at.tick * zoomOf(sheet) - sheet.scroll;
    const shown = at.playing && x >= 0 && x <= sheet.width;
    if (!el.current || (!shown && el.current.style.display === "none")) return;
    el.current.style.display = shown ? "block" : "none";
    el.current.style.transform = `translateX(${left + x}px)`;
    el.current.dataset.tick = String(Math.round(at.tick));
  });
  return (
    <div ref={el} className={css.playhead} data-testid={main ? "playhead" : undefined} style={{ display: "none" }} />
  );
}
