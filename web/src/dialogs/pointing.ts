import { useCallback, useEffect, useRef, useState } from "react";
import { isPlaying, playLoop } from "../state/player";
import { useApp, type Edit } from "../state/store";

/** What a chooser points at: tried in the place of what stands, and heard, until it is kept or left. */
export interface Pointing {
  /** The name of what is pointed at; empty: nothing is. */
  name: string;
  /** Why it cannot be tried; empty: it can. */
  problem: string;
  /** Points at something, which is heard from the next bar on. */
  point: (name: string, edit: Edit) => void;
  /** Puts back what stood. */
  leave: () => void;
  /** Makes the edit that is tried; false: there is none, or it was refused. */
  keep: () => Promise<boolean>;
}

/** Lets a chooser try what it points at. What is not kept by the time that the chooser goes is left. */
export function usePointing(): Pointing {
  const [name, setName] = useState("");
  const [problem, setProblem] = useState("");
  const latest = useRef<Edit | null>(null);
  const leave = useCallback(() => {
    latest.current = null;
    setName("");
    setProblem("");
    useApp.getState().leave();
  }, []);
  useEffect(() => () => useApp.getState().leave(), []);
  const point = useCallback((next: string, edit: Edit) => {
    latest.current = edit;
    setName(next);
    void useApp
      .getState()
      .attempt(edit, next)
      .then((why) => latest.current === edit && setProblem(why));
    if (!isPlaying()) void playLoop();
  }, []);
  const keep = useCallback(async () => {
    const edit = latest.current;
    return edit !== null && (await useApp.getState().edit(edit));
  }, []);
  return { name, problem, point, leave, keep };
}

/** Moves a choice among so many by arrow keys; null: the key is not for it. */
export function moved(key: string, at: number, count: number, across = 1): number | null {
  const by = { ArrowDown: across, ArrowUp: -across, ArrowRight: 1, ArrowLeft: -1 }[key];
  if (by === undefined || !count) return null;
  if (at < 0) return 0;
  return Math.min(Math.max(at + by, 0), count - 1);
}
