import { create } from "zustand";
import { hasMidi, takeFirst } from "../input/midi";
import { listen } from "../input/access";
import { keep, recalled } from "../kept";
import { message, useApp } from "../state/store";
import { pressOf } from "../ports/port";
import { playRoot } from "./keys";
import { turn } from "./live";
import { perform, useOrder } from "./state";

/** What keyboards and pads do in the running order. What each was taught is remembered on this machine. */
interface Taught {
  /** Names of the keyboards that are heard; null: nobody listens. */
  heard: readonly string[] | null;
  /** The clip that the next message is to stand for; empty: none. */
  teaching: string;
  /** Clips by what stands for them. */
  clips: Readonly<Record<string, string>>;
}

export const useTaught = create<Taught>(() => ({ heard: null, teaching: "", clips: {} }));

const place = () => `agrimony taught ${useApp.getState().id}`;

const taught = (): Record<string, string> => recalled(place(), {});

/** Takes a message; false: it means nothing here. */
export function takeMessage(data: Uint8Array): boolean {
  if (!useOrder.getState().open) return false;
  const name = pressOf(data);
  if (!name) return true;
  const { teaching, clips } = useTaught.getState();
  if (teaching) {
    const next = { ...clips, [name]: teaching };
    useTaught.setState({ teaching: "", clips: next });
    keep(place(), JSON.stringify(next));
    useApp.getState().set({ remark: `${name[0]!.toUpperCase()}${name.slice(1)} stands for the clip now.` });
    return true;
  }
  const clip = clips[name];
  if (clip) void perform(clip, (all, tick) => turn(all, clip, tick));
  else if (name.startsWith("note")) playRoot(data[1] ?? 0);
  return true;
}

/** What stands for a clip, in words; empty: nothing. */
export const taughtTo = (clips: Taught["clips"], clip: string): string =>
  Object.keys(clips)
    .filter((name) => clips[name] === clip)
    .join(", ");

/** Listens to keyboards and pads. One that goes is said, and the rest plays on. */
export async function listenHere(): Promise<void> {
  const { set } = useApp.getState();
  if (!hasMidi()) {
    set({ error: "This browser has no Web MIDI: the computer's keys and the mouse bring clips in and out." });
    return;
  }
  useTaught.setState({ clips: taught() });
  takeFirst(takeMessage);
  try {
    await listen((names) => {
      const gone = useTaught.getState().heard?.filter((name) => !names.includes(name)) ?? [];
      if (gone.length) set({ error: `${gone.join(", ")} is gone; all else plays on.` });
      useTaught.setState({ heard: names });
    });
  } catch (problem) {
    set({ error: `MIDI could not be listened to: ${message(problem)}.` });
  }
}

/** Lets the next message stand for a clip. */
export async function teach(clip: string): Promise<void> {
  if (!useTaught.getState().heard) await listenHere();
  if (useTaught.getState().heard) useTaught.setState({ teaching: clip });
}
