import { useCallback, useEffect, useRef, useState } from "react";
import { isPlaying, playLoop } from "./player";
import type { Op } from "../api/gen/schema.gen";
import { useApp } from "./store";
import type { App, Edit } from "./app";

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

/** Lets a chooser try what it points at; with plays it lets it be heard, too, where nothing plays. What is not kept by
 * the time that the chooser goes is left. */
export function usePointing(plays = true): Pointing {
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
  const point = useCallback(
    (next: string, edit: Edit) => {
      latest.current = edit;
      setName(next);
      void useApp
        .getState()
        .attempt(edit, next)
        .then((why) => latest.current === edit && setProblem(why));
      if (plays && !isPlaying()) void playLoop();
    },
    [plays],
  );
  const keep = useCallback(async () => {
    const edit = latest.current;
    return edit !== null && (await useApp.getState().edit(edit)); // which ends what is tried
  }, []);
  return { name, problem, point, leave, keep };
}

/** Tries what a dialog's choices come to, as they change, from the first change on or, with atOnce, from the beginning. */
export function useTrying(name: string, edit: Edit, atOnce = false): void {
  const [first] = useState(name);
  const latest = useRef(edit);
  const begun = useRef(atOnce);
  useEffect(() => {
    latest.current = edit;
  });
  useEffect(() => {
    begun.current ||= name !== first;
    if (begun.current) void useApp.getState().attempt((now) => asOps(latest.current, now), name);
  }, [name, first]);
  useEffect(() => () => useApp.getState().leave(), []);
}

const asOps = (edit: Edit, now: App): Op[] => (typeof edit === "function" ? edit(now) : edit);
