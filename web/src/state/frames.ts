import { useEffect, useRef } from "react";
import { usePlaying, useStirred } from "./player";

/** For how long after something was heard or moved by hand frames go on, in ms. */
const AFTER = 1000;

/** Does something in every frame while it plays, and for a moment after anything that moves where it would: a page at
 * rest draws nothing. */
export function useFrames(step: () => void): void {
  const playing = usePlaying();
  const stirred = useStirred();
  const newest = useRef(step);
  useEffect(() => {
    newest.current = step;
  });
  useEffect(() => {
    const end = performance.now() + AFTER;
    let frame = 0;
    const go = () => {
      newest.current();
      if (playing || performance.now() < end) frame = requestAnimationFrame(go);
    };
    frame = requestAnimationFrame(go);
    return () => cancelAnimationFrame(frame);
  }, [playing, stirred]);
}
