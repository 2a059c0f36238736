import { keep, recall } from "../kept";
import { create } from "zustand";
import { api, ApiError } from "../api/client";
import { shownBy, wholeAsBefore, wholeClip } from "../api/held";
import { MergeError } from "../api/merge";
import { keepThumb } from "../api/queries";
import type { Clip as ClipDoc } from "../api/gen/piece.gen";
import type { Lane, Step } from "../api/gen/schema.gen";
import type { Kept, State } from "../api/gen/server.gen";
import type { Lane as LaneView } from "../api/gen/view.gen";
import { defaultKind } from "../api/default";
import { follow, freeNotes } from "../api/free";
import { nowhere, type App, type Edit } from "./app";
import { Queue } from "./queue";
import { persist } from "./saving";
import { answered, keptOf, triedOver, untried } from "./tried";

/** Whether notes are heard as they are edited is remembered on this machine. */
const AUDITION = "agrimony audition";

const recallAudition = (): boolean => recall(AUDITION) !== "false";

const keepAudition = (heard: boolean): void => keep(AUDITION, String(heard));

/** Edits go out one after another, each against the version the last one made. */
const queue = new Queue();

/** How many clips that were open before are held whole: an edit of one may still be on its way. */
const ALSO = 4;

/** Asks for a change, and tells what it comes to as soon as that is known. */
type Request = (key: string, shown: (state: State) => void) => Promise<Kept>;

export const useApp = create<App>((set, get) => {
  /** Which attempt is the newest: what others come to is not shown. */
  let newest = 0;
  /** How much was tried while a hand still holds what is edited; null: none does. */
  let holding: { edits: number } | null = null;
  const told = (problem: unknown, edit: Edit | null) => {
    set((s) => untried(s));
    if (problem instanceof ApiError && problem.status === 409 && problem.problem.state) {
      set({ conflict: { newer: problem.problem.state, edits: edit ? [edit] : [] } });
      return;
    }
    const mends = problem instanceof ApiError ? (problem.problem.mends ?? []) : [];
    set({ error: message(problem), remark: "", mends });
  };
  const done = async (work: () => Promise<void>, edit: Edit | null): Promise<boolean> => {
    try {
      await work();
      return true;
    } catch (problem) {
      told(problem, edit);
      return false;
    }
  };
  /** Does something when its turn has come. Until it is done something is being saved. */
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const made = queue.add(async () => {
      try {
        return await work();
      } finally {
        set((s) => ({ saving: s.saving - 1 }));
      }
    });
    set((s) => ({ saving: s.saving + 1 }));
    return made;
  };
  /** Shows a change as soon as it is worked out. If it is not kept, what is kept is shown again. */
  const shownThenKept = async (request: Request, key: string, drawn: () => void): Promise<void> => {
    const before = answered(keptOf(get()));
    let first: State | null = null;
    let lost = false; // it does not fit to what is held: all is asked for once it is kept
    try {
      const kept = await request(key, (state) => {
        first = state;
        set((s) => untried(s));
        try {
          get().take({ ...state, version: before.version, undo: before.undo, redo: before.redo });
        } catch (problem) {
          if (!(problem instanceof MergeError)) throw problem;
          lost = true;
        }
        set({ error: "", remark: state.remark?.message ?? "", mends: state.remark?.mends ?? [] });
        drawn();
      });
      if (kept.version === before.version) {
        const { shown, sum, piece, view } = before; // nothing was changed
        set({ shown, sum, piece, view, tried: null });
      }
      set({ version: kept.version, undo: kept.undo, redo: kept.redo });
      if (lost) await open(before.id, before.clip);
      keepThumb(before.id, get().shown?.thumb, lost || first!.others);
    } catch (problem) {
      if (first) set({ ...before, remark: "", mends: [] });
      throw problem;
    }
  };
  const change = (request: Request, edit: Edit | null, drawn: () => void = () => {}) =>
    done(
      () =>
        persist(
          (key) => shownThenKept(request, key, drawn),
          (unsaved) => set({ unsaved }),
        ),
      edit,
    );
  const open = async (id: string, clip: string): Promise<void> => {
    get().leave();
    const was = get();
    const also = was.id === id ? [was.clip, ...was.also.filter((c) => c !== was.clip)] : [];
    const whole = also.filter((c) => c && c !== clip).slice(0, ALSO);
    get().take(await api.open(id, clip, whole), whole);
  };

  return {
    words: null,
    ...nowhere,
    saving: 0,
    unsaved: null,
    conflict: null,
    audition: recallAudition(),
    atBar: true,
    laneCopied: "",
    clipboard: { kind: defaultKind, steps: [] },

    take: (state, also) => {
      const before = get();
      const known = before.id === state.id;
      const shown = shownBy(state, known ? before.shown : null);
      const { view } = shown;
      const sameVersion = known && before.version === state.version;
      const piece = also && sameVersion ? wholeAsBefore(shown.piece, before.piece) : shown.piece;
      // Another piece, or a version that somebody else made: all pictures may be others.
      if (!sameVersion) keepThumb(state.id, shown.thumb, true);
      const clip = view?.id ?? "";
      const lanes = wholeClip(piece, clip)?.lanes ?? [];
      const head = (id: string) => piece?.clips.find((c) => c.id === id)?.of || id;
      const sameLane = known && head(clip) === head(before.clip) && lanes.some((l) => l.id === before.lane);
      const lane = lanes.find((l) => l.id === before.lane && sameLane) ?? lanes[0];
      const count = lane ? placesOf(lane) : 0;
      const was = sameLane ? laneOf(before) : undefined;
      set({
        id: state.id,
        version: state.version,
        undo: state.undo,
        redo: state.redo,
        shown,
        sum: state.sum,
        also: also ?? (known ? before.also : []),
        piece,
        view,
        trouble: shown.trouble,
        clip,
        lane: lane?.id ?? "",
        selection: sameLane && lane ? follow(was, lane, before.selection).filter((n) => n < count) : [],
        cursor: Math.min((sameLane && lane && follow(was, lane, [before.cursor])[0]) || 0, Math.max(count - 1, 0)),
        ghosts: known ? before.ghosts : [],
        hover: null,
      });
    },

    edit: (edit, ghosts = []) => {
      if (holding) {
        return get()
          .attempt(edit)
          .then(() => false); // it is not made yet
      }
      const drawn = () => {
        if (ghosts.length) set((s) => ({ ghosts: s.ghosts.filter((ghost) => !ghosts.includes(ghost)) }));
      };
      const send = async () => {
        const { conflict } = get();
        if (conflict) {
          set({ conflict: { ...conflict, edits: [...conflict.edits, edit] } });
          return false;
        }
        const at = keptOf(get());
        const ops = typeof edit === "function" ? edit(at) : edit;
        if (!ops.length) set((s) => untried(s));
        return ops.length === 0 || change((key, shown) => api.edit(key, at, ops, shown), edit, drawn);
      };
      newest++;
      const made = inTurn(() => send().finally(drawn));
      if (ghosts.length) set((s) => ({ ghosts: [...s.ghosts, ...ghosts] })); // the request goes out before they are drawn
      return made;
    },

    attempt: (edit, name = "") => {
      const own = ++newest;
      if (holding) holding.edits++;
      return queue.add(async () => {
        const at = keptOf(get());
        if (own !== newest || !at.id || at.conflict) return "";
        const ops = typeof edit === "function" ? edit(at) : edit;
        try {
          const state = ops.length ? await api.draft(at, ops) : null;
          if (own !== newest) return "";
          if (!state) {
            get().leave();
            return "";
          }
          const tried = triedOver(get(), ops, name);
          set((s) => untried(s));
          get().take({ ...state, version: at.version, undo: at.undo, redo: at.redo });
          set({ tried });
          return "";
        } catch (problem) {
          if (own === newest) get().leave();
          return message(problem);
        }
      });
    },

    held: () => holding !== null,

    hold: (act) => {
      const own = { edits: 0 };
      holding = own;
      try {
        act();
      } finally {
        holding = null;
      }
      if (!own.edits && !get().tried?.name) get().leave(); // what a chooser points at is its own
    },

    leave: () => {
      newest++;
      set((s) => untried(s));
    },

    walk: async (way) => {
      newest++;
      await inTurn(async () => {
        const at = keptOf(get());
        return !at.conflict && at[way] !== "" && change((key, shown) => api.walk(key, at, way, shown), null);
      });
    },

    bring: (file, ask) =>
      inTurn(async () => {
        const at = keptOf(get());
        return !at.conflict && change((key, shown) => api.takeInto(key, at, file, ask, shown), null);
      }),

    openClip: async (clip) => {
      await inTurn(() => done(() => open(get().id, clip), null));
    },

    goToPlace: (piece, clip) =>
      queue.add(async () => {
        const { id, clip: shown } = get();
        if (piece === id && (!clip || clip === shown)) return;
        if (piece) await open(piece, clip);
        else {
          get().leave();
          set(nowhere);
        }
      }),

    goTo: (lane) => {
      if (get().lane !== lane) set({ lane, selection: [], cursor: 0 });
    },

    select: (places, cursor) => {
      const sorted = [...new Set(places)].sort((a, b) => a - b);
      set({ selection: sorted, cursor: cursor ?? sorted[sorted.length - 1] ?? get().cursor });
    },

    set: (part) => {
      set(part);
      if (part.audition !== undefined) keepAudition(part.audition);
    },

    settle: async (mine) => {
      const { conflict } = get();
      if (!conflict) return;
      get().leave();
      get().take(conflict.newer);
      set({ conflict: null });
      if (mine) await Promise.all(conflict.edits.map((edit) => get().edit(edit)));
    },
  };
});

/** Does what a hand will do when it lets go: see App.hold. */
export const whileHeld = (act: () => void): void => useApp.getState().hold(act);

export function message(problem: unknown): string {
  if (problem instanceof DOMException) return refusals[problem.name] ?? problem.message;
  return problem instanceof Error ? problem.message : String(problem);
}

/** What browsers refuse, in words: their own are for programmers, and each has others. */
const refusals: Readonly<Record<string, string>> = {
  NotAllowedError: "the browser does not allow it",
  SecurityError: "the browser does not allow it",
  AbortError: "it was stopped",
  QuotaExceededError: "the browser has no room left for it",
  NotFoundError: "it is not there any more",
  NotSupportedError: "this browser cannot do it",
};

/** How many places of a lane can be selected. */
export const placesOf = (lane: Lane): number => stepsOf(lane).length;

/** The steps of a lane, or its free notes, which have what steps have; none where its kind has
 * none. */
export const stepsOf = (lane: Lane): Step[] =>
  "steps" in lane ? lane.steps : ((freeNotes(lane) ?? []) as unknown as Step[]);

export const clipOf = (s: App): ClipDoc | undefined => wholeClip(s.piece, s.clip);
/** A lane by its clip and id, whichever is open. */
export const laneIn = (s: App, clip: string, lane: string): Lane | undefined =>
  wholeClip(s.piece, clip)?.lanes.find((l) => l.id === lane);
export const laneOf = (s: App): Lane | undefined => laneIn(s, s.clip, s.lane);
export const laneViewOf = (s: App): LaneView | undefined => s.view?.lanes.find((l) => l.id === s.lane);

/** The steps, from 1, that an action works on: those selected, or all of the lane. */
export function affected(s: App): number[] {
  const lane = laneOf(s);
  return lane ? among(s.selection, placesOf(lane)) : [];
}

/** Those of the places that a lane of so many has, or all when none is chosen; from 1. */
export function among(places: readonly number[], count: number): number[] {
  const steps = places.length ? places.filter((n) => n < count) : Array.from({ length: count }, (_, i) => i);
  return steps.map((n) => n + 1);
}
