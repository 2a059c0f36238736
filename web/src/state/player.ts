import type { HandMove } from "../audio/voices";
import { create } from "zustand";
import type { Lane } from "../api/gen/schema.gen";
import type { Sound } from "../api/gen/piece.gen";
import type { Note } from "../api/gen/view.gen";
import { keep, recalled } from "../kept";
import type { Metered } from "../synth/protocol";
import { clipOf, message, useApp } from "./store";
import type { Engine } from "../audio/engine";
import type { Instrument, Performance, Trial } from "../audio/performance";
import { followWith } from "../ports/clock";
import type { Listener, Running } from "../audio/running";

/** The sound engine, loaded when something is first to be heard. */
let engine: Engine | null = null;
let loading: Promise<Engine> | null = null;

/** Where what is to be heard is had from. */
interface Source {
  /** The newest performance; null: there is none. */
  newest: () => Performance | null;
  /** What a lane sounds with; null: nothing. */
  instrumentOf: (lane: Lane) => Instrument | null;
}

let source: Source = { newest: () => null, instrumentOf: () => null };

export function playFrom(from: Source): void {
  source = from;
}

/** What plays and stops in place of the loop, while it is to. */
interface Instead {
  wanted: () => boolean;
  /** Whether it plays. */
  running: () => boolean;
  /** Where the open clip stands at a tick of it, in a loop of so many ticks; null: the clip does not sound there. */
  place: (tick: number, ticks: number) => number | null;
  /** Plays it from a tick on, or from where it is to begin. */
  start: (tick: number) => Promise<void>;
  begin: () => Promise<void>;
  stop: () => void;
}

let instead: Instead | null = null;

export function playInstead(own: Instead): void {
  instead = own;
}

/** A clock that is followed starts and stops what plays. */
followWith({
  start: (tick) =>
    void load(SOUND)
      .then(async (e) => {
        if (instead?.wanted() || instead?.running()) return instead.start(tick());
        await e.join(tick);
        usePlayer.setState({ playing: e.playing });
      })
      .catch(notStarted(SOUND)),
  stop: (why) => {
    stopAnything();
    if (why) useApp.getState().set({ error: why });
  },
});

const LOUDNESS = "agrimony loudness";

/** How loud everything is on this machine, 0..100. */
const useLoudness = create<{ value: number }>(() => ({ value: recalled(LOUDNESS, 100) }));

export const useLoud = (): number => useLoudness((s) => s.value);

/** What samples are multiplied by: half way is 12 dB softer. */
const gainOf = (value: number): number => (value / 100) ** 2;

/** Sets how loud everything is on this machine, which remembers it. */
export function setLoudness(value: number): void {
  useLoudness.setState({ value });
  keep(LOUDNESS, JSON.stringify(value));
  engine?.loud(gainOf(value));
}

/** How loud it was a moment ago: by lanes, and all of them before the limiter. Over 1 is too loud. */
export const metered = (): Metered => engine?.metered ?? { lanes: {}, all: 0 };

/** Whether it plays, and how often something else was heard or moved. */
const usePlayer = create<{ playing: boolean; stirred: number }>(() => ({ playing: false, stirred: 0 }));

export const isPlaying = (): boolean => usePlayer.getState().playing;
export const usePlaying = (): boolean => usePlayer((s) => s.playing);
export const useStirred = (): number => usePlayer((s) => s.stirred);

const stir = (): void => usePlayer.setState((s) => ({ stirred: s.stirred + 1 }));

/** How long the sound may take to start before something is said, and before it is given up, in ms: a machine that is
 * busy may need some seconds. */
const PATIENCE = 2000;
const GIVEN_UP = 15_000;

/** Why nothing is heard where the browser never starts the sound. */
const NO_SOUND =
  "the browser does not start the sound; see whether this machine has a sound device, and whether the page may use it";

/** The sound engine, once it is there. What is said while it is slow to start is taken back when it has. */
async function load(what?: string): Promise<Engine> {
  const arrived = import("../audio/engine"); // how long that takes is the network's affair
  loading ??= arrived.then((m) => m.startEngine(() => source.newest()));
  await arrived;
  const { set } = useApp.getState();
  const slow = `${what} could not be started: ${NO_SOUND}.`;
  const told = setTimeout(() => what && set({ error: slow }), PATIENCE);
  const late = new Promise<never>((_, failed) => setTimeout(() => failed(new Error(NO_SOUND)), GIVEN_UP));
  const first = !engine;
  try {
    engine = await Promise.race([loading, late]);
  } finally {
    clearTimeout(told);
  }
  if (useApp.getState().error === slow) set({ error: "" });
  if (first) engine.loud(gainOf(useLoudness.getState().value));
  return engine;
}

/** Says why something could not be started. */
const notStarted =
  (what: string) =>
  (problem: unknown): void =>
    useApp.getState().set({ error: `${what} could not be started: ${message(problem)}.` });

const SOUND = "The sound";
const ORDER = "The running order";

/** Stops what plays; where nothing does, plays the running order while that is open, or else the clip, after a bar of
 * clicks if that is wanted. */
export async function togglePlay(countIn = false): Promise<void> {
  if (isPlaying()) stopAnything();
  else if (instead?.wanted()) await instead.begin();
  else await playLoop(countIn);
}

/** Starts to play the clip where nothing plays. */
export async function playLoop(countIn = false): Promise<void> {
  try {
    const e = await load(SOUND);
    stir();
    if (!e.playing) await e.play(countIn);
    usePlayer.setState({ playing: e.playing });
  } catch (problem) {
    loading = null;
    notStarted(SOUND)(problem);
  }
}

/** Stops the running order or the clip. */
function stopAnything(): void {
  if (instead?.running()) instead.stop();
  else stopPlaying();
}

/** Plays the running order from a tick on. */
export async function runOrder(running: Running, tick: number): Promise<boolean> {
  try {
    const e = await load(ORDER);
    e.told = listener;
    await e.run(running, tick);
    usePlayer.setState({ playing: e.playing });
    return true;
  } catch (problem) {
    notStarted(ORDER)(problem);
    return false;
  }
}

/** Where the running order is, and up to where it is scheduled, in its ticks. */
export const orderPosition = (): { tick: number; done: number; scheduled: number } => ({
  tick: engine?.orderPosition() ?? 0,
  done: engine?.orderDone() ?? 0,
  scheduled: engine?.scheduled ?? 0,
});

/** Tells of what is scheduled of the running order. */
export function listenToOrder(told: Listener): void {
  listener = told;
}

let listener: Listener | null = null;

/** Stops, where it plays. */
export function stopPlaying(): void {
  engine?.stop();
  stir();
  usePlayer.setState({ playing: false });
}

/** Lets notes that are placed, dragged or chosen be heard at once in their lane's voice, over the loop too, if that is
 * wanted. */
export function audition(lane: Lane, pitches: readonly number[]): void {
  if (pitches.length && useApp.getState().audition) sound(lane, pitches);
}

/** Lets a lane sound at once as it does now: a value of its sound moves. */
export function retune(id: string): void {
  const lane = clipOf(useApp.getState())?.lanes.find((l) => l.id === id);
  const instrument = lane && source.instrumentOf(lane);
  if (instrument) engine?.retune(instrument);
}

/** Lets notes be heard as they are played by hand, over the loop too. */
export function sound(lane: Lane, pitches: readonly number[]): void {
  const instrument = source.instrumentOf(lane);
  if (!instrument) return;
  if (engine) {
    // At once: what the press changes on screen is drawn after it.
    engine.audition(instrument, pitches);
    stir();
    return;
  }
  void load()
    .then((e) => e.audition(instrument, pitches))
    .then(stir)
    .catch(() => {
      loading = null; // a click must not fail for want of sound; playing says why
    });
}

/** Lets a key be heard as long as it is held; what is given lets go of it. */
export function hold(lane: Lane, pitch: number, velocity: number): () => void {
  const instrument = source.instrumentOf(lane);
  if (!instrument) return () => undefined;
  let down = true;
  const strike = (e: Engine) => {
    if (down) e.hold(instrument, pitch, velocity);
    else e.audition(instrument, [pitch]); // it was let go before there was any sound
    stir();
  };
  if (engine) strike(engine);
  else
    void load()
      .then(strike)
      .catch(() => {
        loading = null; // a key must not fail for want of sound; playing says why
      });
  return () => {
    down = false;
    engine?.letGo(instrument, pitch);
  };
}

/** How many ticks ago one heard, at a time of the page's clock in ms, what plays. */
export const ticksSince = (at: number): number => engine?.ticksSince(at) ?? 0;

/** Moves wheel, controllers and pressure of what a hand holds. */
export function move(lane: Lane, what: HandMove): void {
  const instrument = source.instrumentOf(lane);
  if (instrument) engine?.moveHeld(instrument, what);
}

/** Lets notes be heard over the loop, which starts to play if it does not. */
function offered(trial: Trial): void {
  void load(SOUND)
    .then(async (e) => {
      e.tryOut(trial);
      if (!e.playing) await e.play();
      usePlayer.setState({ playing: e.playing });
    })
    .catch(notStarted(SOUND));
}

/** Lets notes that are no lane yet be heard over the loop; null: no longer. */
export function tryOutNotes(heard: { voice: Sound; notes: Note[]; ticks: number } | null): void {
  if (!heard) engine?.tryOut(null);
  else offered({ instrument: { id: "file", sound: heard.voice, many: true }, notes: heard.notes, ticks: heard.ticks });
}

/** Goes on playing from a tick. */
export function seek(tick: number): void {
  if (instead?.running()) return; // that has places of its own
  const { from = 0, ticks = 1 } = source.newest() ?? {};
  engine?.seek((((tick - from) % ticks) + ticks) % ticks); // within what is looped
  stir();
}

/** Where the playing is, for whoever draws it. */
export function playPosition(): {
  playing: boolean;
  tick: number;
  share: number;
  scheduled: number;
  clicked: number;
  driven: number;
  tried: number;
} {
  const { from, ticks } = source.newest() ?? { from: 0, ticks: 1 };
  const whole = useApp.getState().view?.ticks || 1;
  const ordered = instead?.running() ? instead.place(engine?.orderPosition() ?? 0, whole) : undefined;
  const tick = ordered === undefined ? from + Math.min(engine?.position() ?? 0, ticks) : (ordered ?? 0);
  return {
    playing: (engine?.playing ?? false) && ordered !== null,
    tick,
    share: tick / whole,
    scheduled: engine?.scheduled ?? 0,
    clicked: engine?.clicked ?? 0,
    driven: engine?.driven ?? 0,
    tried: engine?.trial.tried ?? 0,
  };
}
