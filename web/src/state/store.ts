import { create } from "zustand";
import { api, ApiError } from "../api/client";
import { share } from "./share";
import type { Op } from "../api/gen/edit.gen";
import type { Clip as ClipDoc, Lane as LaneDoc, Piece, Step } from "../api/gen/piece.gen";
import type { State } from "../api/gen/server.gen";
import type { Clip as ClipView, Lane as LaneView, Thumb, Vocabulary } from "../api/gen/view.gen";

/** A note drawn before the server has answered: only where it was put. */
export interface Ghost {
  lane: string;
  step: number;
  pitch: number;
}

export type Panel = "keys" | "key" | "render" | "clip" | null;

interface Conflict {
  newer: State;
  ops: Op[];
}

export interface App {
  words: Vocabulary | null;
  id: string;
  version: number;
  undo: string;
  redo: string;
  piece: Piece | null;
  view: ClipView | null;
  thumbs: Thumb[];
  clip: string;
  lane: string;
  /** Selected steps of the open lane, from 0, in order. */
  selection: number[];
  /** The end of the selection that the arrows move. */
  cursor: number;
  ghosts: Ghost[];
  saving: number;
  error: string;
  conflict: Conflict | null;
  panel: Panel;
  hover: { lane: string; note: number } | null;
  audition: boolean;
  clipboard: Step[];

  take: (state: State) => void;
  /** Sends ops. Those that build on what is there are given as a function, which
   * is asked only when every edit before has been answered: otherwise a quick
   * second edit would send back what the first had changed. */
  edit: (ops: Op[] | ((now: App) => Op[]), ghosts?: Ghost[]) => Promise<boolean>;
  walk: (way: "undo" | "redo") => Promise<void>;
  openClip: (id: string) => Promise<void>;
  openLane: (id: string) => void;
  select: (steps: number[], cursor?: number) => void;
  set: (part: Partial<App>) => void;
  settle: (mine: boolean) => Promise<void>;
}

/** Edits go out one after another, each against the version the last one made. */
let queue: Promise<unknown> = Promise.resolve();
let thumbTimer = 0;

export const useApp = create<App>((set, get) => {
  const enqueue = <T>(work: () => Promise<T>): Promise<T> => {
    const next = queue.then(work, work);
    queue = next.catch(() => undefined);
    return next;
  };

  const refreshThumbs = () => {
    window.clearTimeout(thumbTimer);
    thumbTimer = window.setTimeout(async () => {
      const { id } = get();
      if (!id) return;
      try {
        const thumbs = await api.thumbs(id);
        if (get().id === id) set({ thumbs });
      } catch (problem) {
        set({ error: message(problem) });
      }
    }, 150);
  };

  const send = async (request: () => Promise<State>, ops: Op[]): Promise<boolean> => {
    set((s) => ({ saving: s.saving + 1 }));
    try {
      get().take(await request());
      return true;
    } catch (problem) {
      if (problem instanceof ApiError && problem.status === 409 && problem.problem.state) {
        set({ conflict: { newer: problem.problem.state, ops }, ghosts: [] });
      } else {
        set({ error: message(problem), ghosts: [] });
      }
      return false;
    } finally {
      set((s) => ({ saving: s.saving - 1 }));
    }
  };

  return {
    words: null,
    id: "",
    version: 0,
    undo: "",
    redo: "",
    piece: null,
    view: null,
    thumbs: [],
    clip: "",
    lane: "",
    selection: [],
    cursor: 0,
    ghosts: [],
    saving: 0,
    error: "",
    conflict: null,
    panel: null,
    hover: null,
    audition: true,
    clipboard: [],

    take: (state) => {
      const before = get();
      const view = state.view ?? null;
      const clip = view?.id ?? "";
      const lanes = state.piece?.clips.find((c) => c.id === clip)?.lanes ?? [];
      const sameLane = clip === before.clip && state.id === before.id && lanes.some((l) => l.id === before.lane);
      const lane = sameLane ? before.lane : (lanes[0]?.id ?? "");
      const count = lanes.find((l) => l.id === lane)?.steps.length ?? 0;
      const selection = sameLane ? before.selection.filter((n) => n < count) : [];
      set({
        id: state.id,
        version: state.version,
        undo: state.undo,
        redo: state.redo,
        piece: state.piece ? share(before.piece, state.piece) : null,
        view: view ? share(before.view, view) : null,
        clip,
        lane,
        selection,
        cursor: Math.min(sameLane ? before.cursor : 0, Math.max(count - 1, 0)),
        ghosts: [],
        hover: null,
      });
      const url = `/?piece=${encodeURIComponent(state.id)}&clip=${encodeURIComponent(clip)}`;
      if (window.location.pathname + window.location.search !== url) window.history.replaceState(null, "", url);
      refreshThumbs();
    },

    edit: (ops, ghosts = []) => {
      if (ghosts.length) set((s) => ({ ghosts: [...s.ghosts, ...ghosts] }));
      return enqueue(async () => {
        const list = typeof ops === "function" ? ops(get()) : ops;
        return list.length === 0 || send(() => api.edit(get().id, get().version, get().clip, list), list);
      });
    },

    walk: async (way) => {
      await enqueue(async () => {
        if (!get()[way]) return false;
        return send(() => api.walk(get().id, way, get().version, get().clip), []);
      });
    },

    openClip: async (id) => {
      await enqueue(() => send(() => api.open(get().id, id), []));
    },

    openLane: (lane) => {
      if (get().lane !== lane) set({ lane, selection: [], cursor: 0 });
    },

    select: (steps, cursor) => {
      const sorted = [...new Set(steps)].sort((a, b) => a - b);
      set({ selection: sorted, cursor: cursor ?? sorted[sorted.length - 1] ?? get().cursor });
    },

    set: (part) => set(part),

    settle: async (mine) => {
      const { conflict } = get();
      if (!conflict) return;
      get().take(conflict.newer);
      set({ conflict: null });
      if (mine && conflict.ops.length) await get().edit(conflict.ops);
    },
  };
});

export function message(problem: unknown): string {
  return problem instanceof Error ? problem.message : String(problem);
}

export const clipOf = (s: App): ClipDoc | undefined => s.piece?.clips.find((c) => c.id === s.clip);
/** A lane by its clip and id, whichever is open. */
export const laneIn = (s: App, clip: string, lane: string): LaneDoc | undefined => s.piece?.clips.find((c) => c.id === clip)?.lanes.find((l) => l.id === lane);
export const laneOf = (s: App): LaneDoc | undefined => laneIn(s, s.clip, s.lane);
export const laneViewOf = (s: App): LaneView | undefined => s.view?.lanes.find((l) => l.id === s.lane);

/** The steps an action works on: those selected, or all of the open lane. */
export function affected(s: App): number[] {
  const count = laneOf(s)?.steps.length ?? 0;
  const steps = s.selection.length ? s.selection : Array.from({ length: count }, (_, i) => i);
  return steps.map((n) => n + 1);
}
