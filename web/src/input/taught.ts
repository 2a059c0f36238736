import { create } from "zustand";
import type { Sound } from "../api/gen/piece.gen";
import { keep, recall, recalled } from "../kept";
import { laneFact } from "../api/facts";
import { keepTurned, turn, type Slid } from "../state/turning";
import { clipOf, useApp } from "../state/store";
import { CONTROL, pressOf } from "../ports/port";

/** Values of sounds that controllers of a device move. */
interface Taught {
  /** What the next controller is to move: `lane field`; empty: nothing. */
  teaching: string;
  /** By controllers, what they move. */
  moves: Readonly<Record<number, string>>;
}

const KEPT = "agrimony turned";

export const useTurned = create<Taught>(() => ({ teaching: "", moves: recalled(KEPT, {}) }));

/** After how long without a message a controller has been left, in ms. */
const LEFT = 500;

let left: ReturnType<typeof setTimeout> | undefined;

export const teachSound = (lane: string, field: keyof Sound): void =>
  useTurned.setState({ teaching: `${lane} ${field}` });

/** Which controller moves a value; undefined: none. */
export const controllerOf = (moves: Taught["moves"], lane: string, field: string): number | undefined => {
  const found = Object.entries(moves).find(([, what]) => what === `${lane} ${field}`);
  return found && Number(found[0]);
};

const NEXT = "agrimony next sketch";

/** What stands for the next sketch, and whether the next press is to. */
export const useNext = create<{ stands: string; teaching: boolean }>(() => ({
  stands: recall(NEXT) ?? "",
  teaching: false,
}));

/** Who lets the next sketch be heard; null: none are open. */
let hearNext: (() => void) | null = null;

/** Lets what was taught let the next sketch be heard, until the sketches are gone. */
export function onNext(act: () => void): () => void {
  hearNext = act;
  return () => {
    hearNext = null;
    useNext.setState({ teaching: false });
  };
}

function takeNext(data: Uint8Array): boolean {
  const press = pressOf(data);
  if (!hearNext || !press) return false;
  const { stands, teaching } = useNext.getState();
  if (teaching) {
    useNext.setState({ stands: press, teaching: false });
    keep(NEXT, press);
    return true;
  }
  if (press !== stands) return false;
  hearNext();
  return true;
}

/** Takes a message that was taught to something; false: it means nothing here. */
export function takeTaught(data: Uint8Array): boolean {
  if (takeNext(data)) return true;
  const [status = 0, controller = 0, value = 0] = data;
  if ((status & 0xf0) !== CONTROL) return false;
  const { teaching, moves } = useTurned.getState();
  if (teaching) {
    const next = { ...moves, [controller]: teaching };
    useTurned.setState({ teaching: "", moves: next });
    keep(KEPT, JSON.stringify(next));
    useApp.getState().set({ remark: `Controller ${controller} moves it now.` });
    return true;
  }
  const what = moves[controller];
  const lane = what?.split(" ")[0];
  if (!what || !clipOf(useApp.getState())?.lanes.some((l) => l.id === lane)) return false;
  const [of, field] = what.split(" ") as [string, Slid];
  const { low, high } = laneFact.sound.fields[field];
  turn(of, field, Math.round(low + (value / 127) * (high - low)));
  clearTimeout(left);
  left = setTimeout(keepTurned, LEFT);
  return true;
}
