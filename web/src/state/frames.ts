import { useEffect, useRef } from "react";
import { usePlaying, useStirred } from "./player";

/** For how long after something was heard or moved by hand frames go on, in ms. */
const AFTER = 1500;

/** Does something in every frame while it plays, and for a moment after anything that moves where it would: a page at
 * rest draws nothing. last: no frame comes after it. */
export function useFrames(step: (last: boolean) => void): void {
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
      const more = playing || performance.now() < end;
      newest.current(!more);
      if (more) frame = requestAnimationFrame(go);
    };
    frame = requestAnimationFrame(go);
    return () => cancelAnimationFrame(frame);
  }, [playing, stirred]);
}
