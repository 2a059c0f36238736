import type { Played } from "../api/gen/op.gen";
import { create } from "zustand";
import { api, ApiError } from "../api/client";
import type { Op } from "../api/gen/schema.gen";
import type { Held } from "../api/gen/order.gen";
import type { PlayedLane } from "../api/gen/server.gen";
import type { Order } from "../api/gen/view.gen";
import {
  listenToOrder,
  orderPosition,
  playInstead,
  runOrder,
  stopPlaying,
  isPlaying,
  playLoop,
  playPosition,
} from "../state/player";
import { inOrder as idOf, type Instrument } from "../audio/performance";
import { Running, silencesOf, type Ask, type RunningLane, type Stretch } from "../audio/running";
import type { Source } from "../sound/bounce";
import { PPQ } from "../api/gen/view.gen";
import { laneKinds } from "../lanes/kinds";
import { placeOf, usePorts } from "../ports/routes";
import { timesOf } from "../state/times";
import { newKey } from "../state/saving";
import { message, useApp } from "../state/store";
import { at, boundary, differsFrom, endOf, ended, OPEN_BARS, sent, turn, type Live } from "./live";
import { announce, hasZones, leaveSeats, takeSeats, zonesAfter } from "./seats";
import { BAR, BEAT } from "../api/default";

/** After which a clip comes in or goes: a beat, so many bars, or the end of its own loop. */
export const units = ["beat", "1", "2", "4", "8", "loop"] as const;
export type Unit = (typeof units)[number];

interface OrderState {
  /** Whether the view of the running order stands in the place of the sheet. */
  open: boolean;
  view: Order | null;
  /** The order as it is played; null: it is not. */
  live: Live[] | null;
  /** Whether it was changed by hand since playing began. */
  touched: boolean;
  /** Where playing begins, in ticks. */
  cursor: number;
  loop: { from: number; to: number } | null;
  unit: Unit;
  /** The clip that the keyboard moves along its scale; empty: none. */
  follow: string;
  /** Entries that are selected, by their numbers. */
  chosen: number[];
  /** Pixels a bar, the first tick in sight, and how far the bands are scrolled down. */
  zoom: number;
  scroll: number;
  top: number;
  /** The clips that stand first, as they were played when that was chosen; null: all stand as in the index. */
  first: readonly string[] | null;
  set: (part: Partial<OrderState>) => void;
}

export const useOrder = create<OrderState>((set) => ({
  open: false,
  view: null,
  live: null,
  touched: false,
  cursor: 0,
  loop: null,
  unit: "1",
  follow: "",
  chosen: [],
  zoom: 24,
  scroll: 0,
  top: 0,
  first: null,
  set,
}));

const state = useOrder.getState;
const app = useApp.getState;

/** The written order as it can be played. */
export const written = (): Live[] =>
  (app().piece?.order.entries ?? []).map(({ clip, at, for: length, from, mute, shift, run, luck, pass, ring }) => ({
    clip,
    at,
    for: length,
    from,
    mute,
    shift,
    run,
    luck,
    pass,
    ring,
  }));

/** What sounds when, as it is played or as it is written. */
export const list = (): Live[] => state().live ?? written();

let running: Running | null = null;

const barTicks = () => state().view?.barTicks ?? BAR;

const instrumentOf = (sound: PlayedLane, lane: string): Instrument => ({
  id: idOf(sound.clip, lane),
  sound: sound.sound,
  many: laneKinds[sound.kind as keyof typeof laneKinds].many,
  route: placeOf(useApp.getState().id, sound.clip, lane),
  channel: sound.channel,
  apart: sound.apart,
});

/** A lane as it is to be played. */
function laneOf(sound: PlayedLane): RunningLane {
  return {
    id: idOf(sound.clip, sound.lane),
    instrument: sound.on ? null : instrumentOf(sound, sound.lane),
    on: sound.on ? (known.get(idOf(sound.clip, sound.on)) ?? null) : null,
    sound,
  };
}

/** What lanes sound with that others act on. */
const known = new Map<string, Instrument>();

const ask: Ask = async (from, to, begin, before) => {
  const zones = hasZones() ? zonesAfter(await before) : [];
  return stretchOf(sent(list(), to + OPEN_BARS * barTicks()), from, to, begin, zones);
};

/** What begins in a stretch of a list of entries. */
async function stretchOf(
  played: Played[],
  from: number,
  to: number,
  begin: boolean,
  zones: Held[] = [],
): Promise<Stretch> {
  const draft = app().tried?.ops;
  const answer = await api.playOrder(app().id, { played, from, to, begin, zones, ...(draft ? { draft } : {}) });
  for (const lane of answer.lanes) {
    if (!lane.on) known.set(idOf(lane.clip, lane.lane), instrumentOf(lane, lane.lane));
  }
  return { lanes: answer.lanes.map(laneOf), silences: silencesOf(answer.silences, idOf), zones: answer.zones };
}

const tell = (name: string, detail: unknown) => window.dispatchEvent(new CustomEvent(name, { detail }));

/** What is scheduled is told to whoever listens on the page. */
listenToOrder({
  note: (note) => tell("order note", note),
  silence: (lane, at) => tell("order silence", { lane, at }),
});

/** What a stretch of a list of entries is made a sound file of. */
export function sourceOf(played: Played[], from: number, to: number, beat: boolean): Source {
  const { piece, view } = app();
  const { tempo, beat: backing } = piece!;
  return {
    from,
    to,
    barTicks: view!.barTicks,
    rate: (tempo / 60) * PPQ,
    beatTicks: view!.beatTicks,
    times: timesOf(app()),
    ask: (low, high, begin) => stretchOf(played, low, high, begin),
    beat: beat ? { ...backing, groove: view!.groove } : null,
  };
}

/** How long it is from a tick to the next bar line, in ms. */
function untilBar(tick: number): number {
  const bar = barTicks();
  return ((bar - (tick % bar)) / ((timesOf(app()).tempo / 60) * PPQ)) * 1000;
}

/** Hears the open clip alone in place of the order, or the order in place of the clip, from the next bar on. */
export function hearOther(): void {
  const own = running;
  const wait = own ? untilBar(orderPosition().tick) : untilBar(playPosition().tick);
  setTimeout(() => {
    if (running !== own || !isPlaying()) return; // it was stopped meanwhile, or is the other already
    if (own) void stopOrder().then(() => playLoop());
    else void playOrder();
  }, wait);
}

/** Plays from a tick on. */
export async function playOrder(from = state().cursor): Promise<void> {
  const { view, set } = state();
  if (!view) return;
  stopPlaying();
  if (!state().live) set({ live: written(), touched: false });
  const own = new Running(ask, view.barTicks);
  own.loop = state().loop;
  own.begins = (at) => announce(app().id, at);
  own.leaps = (tick) => void playOrder(tick);
  own.failed = (problem) => {
    if (problem instanceof ApiError && problem.status >= 400 && problem.status < 500 && takeBack(own)) {
      app().set({ error: `That cannot be played. ${message(problem)}` });
    } else app().set({ error: `What comes next could not be had: ${message(problem)}.` });
  };
  running = own;
  await takeSeats(app().id, seated(from), state().touched);
  if (running !== own) return; // it was stopped, or begun elsewhere
  if (await runOrder(own, state().loop && from >= (state().loop?.to ?? 0) ? state().loop!.from : from)) return;
  set({ live: null });
  halt();
}

/** What was played before the last change by hand, and after it. */
let latest: { before: Live[]; after: Live[] } | null = null;

/** Takes back the last change, where that is what cannot be played. */
function takeBack(own: Running): boolean {
  if (!latest || state().live !== latest.after) return false;
  const { before, after } = latest;
  latest = null;
  state().set({ live: before });
  own.changed(Math.max(differsFrom(before, after), 0));
  return true;
}

/** How long what is open is taken to last as channels are given out, in bars. */
const SEATED_BARS = 16;

/** What is played, as channels are given out over it. */
function seated(now: number): Played[] {
  const all = list();
  const last = all.map(endOf).filter(Number.isFinite);
  return sent(all, Math.max(now + SEATED_BARS * barTicks(), ...last));
}

/** Whether channels are being given out, and whether something has changed meanwhile. */
let seating = false;
let unseated = false;

/** Gives the ports other channels, where what is played now has others. */
async function reseat(): Promise<void> {
  if (seating) {
    unseated = true;
    return;
  }
  const own = running;
  if (!own) return;
  seating = true;
  const others = await takeSeats(app().id, seated(orderPosition().done), state().touched);
  seating = false;
  if (others && running === own) {
    announce(app().id, performance.now());
    own.changed(orderPosition().done);
  }
  if (!unseated) return;
  unseated = false;
  void reseat();
}

/** Stops. What was played by hand stands written as the order, unless it is thrown away. */
export async function stopOrder(keep = true): Promise<void> {
  const { live, touched, set } = state();
  const over = live && untilNow(live);
  halt();
  if (over && touched && keep) {
    // Until it is kept it stays on screen: what is refused can be kept again, or thrown away.
    set({ live: over });
    if (!(await app().edit([{ op: "order.keep", played: sent(over, 0) }]))) return;
    app().set({ remark: "What was played is the running order now. Undo brings the old one back." });
  }
  set({ live: null, touched: false });
}

/** Lets nothing of the order sound any more. */
function halt(): void {
  stopPlaying();
  running?.end();
  running = null;
  leaveSeats();
}

/** What was played up to now, on a beat. */
function untilNow(live: Live[]): Live[] {
  const { tick } = orderPosition();
  return ended(live, boundary(Math.max(tick, 1), state().view?.beatTicks ?? BEAT));
}

/** Changes what is played, from a boundary on; playing begins where it does not. What changes nothing, such as a
 * controller that moves within the values of the clip that sounds, leaves all as it is. */
export async function perform(
  clip: string,
  change: (all: Live[], tick: number) => Live[],
  atOnce = false,
): Promise<void> {
  const { view, set } = state();
  if (!view) return;
  try {
    if (!running) {
      const tick = boundary(state().cursor, unitTicks(clip));
      set({ live: change(written(), tick), touched: true });
      await playOrder(state().cursor);
      return;
    }
    const before = list();
    const after = change(before, when(clip, atOnce));
    if (differsFrom(before, after) === Number.POSITIVE_INFINITY) return;
    set({ live: after, touched: true });
    latest = { before, after };
    running.changed(Math.max(differsFrom(before, after), 0));
    void reseat();
  } catch (problem) {
    app().set({ error: message(problem) });
  }
}

/** Brings a clip in or takes it out, at the next boundary or at once. */
export const turnClip = (clip: string, atOnce = false): void =>
  void perform(clip, (all, tick) => turn(all, clip, tick), atOnce);

/** How long the boundaries are apart, for a clip. */
function unitTicks(clip: string): number {
  const { unit, view } = state();
  if (!view) return BAR;
  if (unit === "beat") return view.beatTicks;
  if (unit === "loop") return view.clips.find((c) => c.id === clip)?.length || view.barTicks;
  return Number(unit) * view.barTicks;
}

/** So long before a change takes hold what is to sound then is asked for, in seconds. */
const NOTICE = 0.1;

/** When a change takes hold. */
function when(clip: string, atOnce: boolean): number {
  const { done } = orderPosition();
  const soon = Math.ceil(done + NOTICE * ((app().piece?.tempo ?? 120) / 60) * PPQ);
  if (atOnce) return soon;
  const { unit } = state();
  const sounding = list().find((e) => e.clip === clip && e.at <= soon && (e.open || soon < e.at + e.for));
  const length = unitTicks(clip);
  if (unit === "loop" && sounding)
    return sounding.at - (sounding.from ?? 0) + boundary(soon - sounding.at + (sounding.from ?? 0), length);
  return boundary(soon, length);
}

/** Edits that are made while it plays are heard. */
useApp.subscribe((now, before) => {
  if (now.id !== before.id && (running || state().open)) {
    const { live, touched } = state();
    if (before.id && live && touched) {
      // One leaves while it plays: what was played is kept in the piece that is left.
      const ops: Op[] = [{ op: "order.keep", played: sent(untilNow(live), 0) }];
      void api
        .edit(newKey(), before, ops, () => {})
        .catch((e: unknown) => app().set({ error: `What was played could not be kept: ${message(e)}` }));
    }
    if (running) halt();
    state().set({
      open: false,
      live: null,
      touched: false,
      view: null,
      chosen: [],
      cursor: 0,
      loop: null,
      follow: "",
      top: 0,
    });
  }
  if (now.tried !== before.tried) running?.stirred(() => orderPosition().done); // what is tried is heard, too
  if (!running || now.version === before.version) return;
  if (!state().touched) state().set({ live: written() });
  running.changed(orderPosition().done);
  void reseat();
});

/** So do ports that are chosen meanwhile. */
usePorts.subscribe((now, before) => {
  if (now.pieces !== before.pieces || now.lanes !== before.lanes) void reseat();
});

/** A clock that is followed plays the order while that is open. */
playInstead({
  wanted: () => state().open,
  running: () => running !== null,
  place: (tick, ticks) => {
    const own = at(list(), app().clip, tick);
    return own ? ((own.from ?? 0) + tick - own.at) % ticks : null;
  },
  start: (tick) => playOrder(tick),
  begin: () => playOrder(),
  stop: () => void stopOrder(),
});

/** Opens the view, or goes back to the sheet; what plays goes on. */
export function showOrder(open = !state().open): void {
  state().set({ open });
}
