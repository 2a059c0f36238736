import { create } from "zustand";
import type { Sound } from "../api/gen/piece.gen";
import { setLane } from "../state/actions";
import { clipOf, useApp } from "../state/store";
import { CONTROL } from "./port";

/** Values of sounds that controllers of a device move. */
interface Taught {
  /** What the next controller is to move: `lane field`; empty: nothing. */
  teaching: string;
  /** By controllers, what they move. */
  moves: Readonly<Record<number, string>>;
  /** Values on the way, by what is moved: they are an edit once the controller is left. */
  turning: Readonly<Record<string, number>>;
}

const KEPT = "agrimony turned";

function recalled(): Record<number, string> {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Record<number, string>;
  } catch {
    return {};
  }
}

export const useTurned = create<Taught>(() => ({ teaching: "", moves: recalled(), turning: {} }));

/** After how long without a message a controller has been left, in ms. */
const LEFT = 600;

let left: ReturnType<typeof setTimeout> | undefined;

export const teachSound = (lane: string, field: keyof Sound): void =>
  useTurned.setState({ teaching: `${lane} ${field}` });

/** Which controller moves a value; undefined: none. */
export const controllerOf = (moves: Taught["moves"], lane: string, field: string): number | undefined => {
  const found = Object.entries(moves).find(([, what]) => what === `${lane} ${field}`);
  return found && Number(found[0]);
};

/** Takes a message that may move a sound; false: it means nothing here. */
export function takeTaught(data: Uint8Array): boolean {
  const [status = 0, controller = 0, value = 0] = data;
  if ((status & 0xf0) !== CONTROL) return false;
  const { teaching, moves, turning } = useTurned.getState();
  if (teaching) {
    const next = { ...moves, [controller]: teaching };
    useTurned.setState({ teaching: "", moves: next });
    try {
      localStorage.setItem(KEPT, JSON.stringify(next));
    } catch {
      // Without storage it lasts as long as the page.
    }
    useApp.getState().set({ remark: `Controller ${controller} moves it now.` });
    return true;
  }
  const what = moves[controller];
  const lane = what?.split(" ")[0];
  if (!what || !clipOf(useApp.getState())?.lanes.some((l) => l.id === lane)) return false;
  useTurned.setState({ turning: { ...turning, [what]: Math.round((value / 127) * 100) } });
  clearTimeout(left);
  left = setTimeout(() => {
    for (const [own, to] of Object.entries(useTurned.getState().turning)) {
      const [of, field] = own.split(" ") as [string, string];
      setLane(of, { sound: { [field]: to } });
    }
    useTurned.setState({ turning: {} });
  }, LEFT);
  return true;
}
