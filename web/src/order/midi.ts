import { create } from "zustand";
import { hasMidi, takeFirst } from "../input/midi";
import { listen } from "../input/access";
import { keep, recalled } from "../kept";
import { message, useApp } from "../state/store";
import { CONTROL, pressOf, releaseOf } from "../ports/port";
import { playRoot } from "./keys";
import { press, release } from "./held";
import { choose } from "./live";
import { many } from "../words";
import { perform, useOrder } from "./state";

/** What keyboards and pads do in the running order. What each was taught is remembered on this machine. */
interface Taught {
  /** Names of the keyboards that are heard; null: nobody listens. */
  heard: readonly string[] | null;
  /** The clip that the next message is to stand for; empty: none. */
  teaching: string;
  /** Whether it is a controller's value that is to stand for it, and not a press. */
  byValue: boolean;
  /** Clips by what stands for them. */
  clips: Readonly<Record<string, string>>;
  /** Clips that a controller's value chooses from: 0..127 is divided among them, in the order in which they were taught. */
  values: Readonly<Record<string, readonly string[]>>;
}

const nothing = { teaching: "", byValue: false, clips: {}, values: {} };

export const useTaught = create<Taught>(() => ({ heard: null, ...nothing }));

const place = () => `agrimony taught ${useApp.getState().id}`;
const valuesPlace = () => `agrimony taught values ${useApp.getState().id}`;

const taught = () => ({
  clips: recalled<Taught["clips"]>(place(), {}),
  values: recalled<Taught["values"]>(valuesPlace(), {}),
});

function keepTaught(part: Partial<Pick<Taught, "clips" | "values">>): void {
  useTaught.setState({ ...part, teaching: "", byValue: false });
  const { clips, values } = useTaught.getState();
  keep(place(), JSON.stringify(clips));
  keep(valuesPlace(), JSON.stringify(values));
}

const said = (text: string) => useApp.getState().set({ remark: text[0]!.toUpperCase() + text.slice(1) });

/** Takes what is to stand for a clip from now on; false: the message cannot. */
function learnt(data: Uint8Array): boolean {
  const { teaching, byValue, clips, values } = useTaught.getState();
  if (byValue) {
    if ((data[0]! & 0xf0) !== CONTROL) return false;
    const name = `controller ${data[1] ?? 0}`;
    const group = [...(values[name] ?? []).filter((id) => id !== teaching), teaching];
    keepTaught({ values: { ...values, [name]: group } });
    said(`${name} chooses among ${many(group.length, "clip")} by its value now.`);
    return true;
  }
  const name = pressOf(data);
  if (!name) return false;
  keepTaught({ clips: { ...clips, [name]: teaching } });
  said(`${name} stands for the clip now.`);
  return true;
}

/** Lets a controller's value choose a clip; false: none was taught to it. */
function chooses(data: Uint8Array): boolean {
  if ((data[0]! & 0xf0) !== CONTROL) return false;
  const name = `controller ${data[1] ?? 0}`;
  const group = useTaught.getState().values[name] ?? [];
  const clip = group[Math.floor(((data[2] ?? 0) * group.length) / 128)];
  if (!clip) return false;
  void perform(clip, (all, tick) => choose(all, group, clip, tick));
  return true;
}

/** Takes a message; false: it means nothing here. Beside the running order it means what it was taught while that plays. */
export function takeMessage(data: Uint8Array): boolean {
  const { open, live } = useOrder.getState();
  const { teaching, clips } = useTaught.getState();
  if (!open && !live) return false;
  if (teaching && open) return learnt(data) || true;
  if (chooses(data)) return true;
  release(releaseOf(data));
  const name = pressOf(data);
  const clip = clips[name];
  if (clip) press(name, clip);
  else if (open && name.startsWith("note")) playRoot(data[1] ?? 0);
  return open || clip !== undefined;
}

/** Forgets all that stands for a clip. */
export function forget(clip: string): void {
  const { clips, values } = useTaught.getState();
  const left = Object.entries(values).map(([name, group]) => [name, group.filter((id) => id !== clip)] as const);
  keepTaught({
    clips: Object.fromEntries(Object.entries(clips).filter(([, id]) => id !== clip)),
    values: Object.fromEntries(left.filter(([, group]) => group.length)),
  });
}

/** Which values of a controller choose a clip, in words; empty: none do. */
export const valuesOf = (values: Taught["values"], clip: string): string =>
  Object.entries(values)
    .flatMap(([name, group]) => {
      const at = group.indexOf(clip);
      const edge = (k: number) => Math.ceil((k * 128) / group.length);
      return at < 0 ? [] : [`${name} from ${edge(at)} to ${edge(at + 1) - 1}`];
    })
    .join(", ");

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
  useTaught.setState(taught());
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

/** Lets the next message stand for a clip, or, by value, a controller's. */
export async function teach(clip: string, byValue = false): Promise<void> {
  if (!useTaught.getState().heard) await listenHere();
  if (useTaught.getState().heard) useTaught.setState({ teaching: clip, byValue });
}
