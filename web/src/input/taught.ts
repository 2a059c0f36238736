import { create } from "zustand";
import { keep, recall, recalled } from "../kept";
import { laneFact } from "../api/facts";
import { keepTurned, turn, type Slid } from "../state/turning";
import { clipOf, useApp } from "../state/store";
import { CONTROL, pressOf } from "../ports/port";

/** What a controller was taught to move, with what it was called then. */
interface Target {
  clip: string;
  lane: string;
  field: Slid;
  names: string;
}

/** Values of sounds that controllers of a device move. */
interface Taught {
  /** What the next controller is to move; null: nothing. */
  teaching: { lane: string; field: Slid } | null;
  /** The piece that they are of, and by controllers what they move. */
  of: string;
  moves: Readonly<Record<number, Target>>;
}

const kept = (piece: string) => `agrimony turned ${piece}`;

export const useTurned = create<Taught>(() => ({ teaching: null, of: "", moves: {} }));

/** What controllers move of the piece that is open. */
export function turnedBy(): Taught["moves"] {
  const { id } = useApp.getState();
  const { of, moves } = useTurned.getState();
  return of === id ? moves : recalled<Taught["moves"]>(kept(id), {});
}

/** After how long without a message a controller has been left, in ms. */
const LEFT = 500;

let left: ReturnType<typeof setTimeout> | undefined;

export const teachSound = (lane: string, field: Slid): void => useTurned.setState({ teaching: { lane, field } });

/** Which controller moves a value of a lane of the open clip; undefined: none. */
export const controllerOf = (moves: Taught["moves"], lane: string, field: string): number | undefined => {
  const clip = headOf(useApp.getState().clip);
  const found = Object.entries(moves).find(([, to]) => to.lane === lane && to.field === field && to.clip === clip);
  return found && Number(found[0]);
};

/** The clip that a clip is a version of, or itself: what moves a lane moves it in all versions. */
const headOf = (clip: string): string => useApp.getState().piece?.clips.find((c) => c.id === clip)?.of || clip;

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
  const { teaching } = useTurned.getState();
  const moves = turnedBy();
  const app = useApp.getState();
  const clip = clipOf(app);
  if (teaching && clip) {
    const own = clip.lanes.find((l) => l.id === teaching.lane);
    const names = `${laneFact.sound.fields[teaching.field].title} of ${own?.name ?? teaching.lane} in ${clip.name}`;
    const next = { ...moves, [controller]: { ...teaching, clip: headOf(clip.id), names } };
    useTurned.setState({ teaching: null, of: app.id, moves: next });
    keep(kept(app.id), JSON.stringify(next));
    app.set({ remark: `Controller ${controller} moves it now.` });
    return true;
  }
  const to = moves[controller];
  if (!to) return false;
  if (!app.piece?.clips.some((c) => c.id === to.clip)) return gone(controller, to);
  if (!clip || headOf(clip.id) !== to.clip) return false;
  if (!clip.lanes.some((l) => l.id === to.lane)) return gone(controller, to);
  const { low, high } = laneFact.sound.fields[to.field];
  turn(to.lane, to.field, Math.round(low + (value / 127) * (high - low)));
  clearTimeout(left);
  left = setTimeout(keepTurned, LEFT);
  return true;
}

/** Says that what a controller moved is no longer there. It is kept: undo may bring it back. */
function gone(controller: number, to: Target): true {
  useApp
    .getState()
    .set({ error: `Controller ${controller} moved ${to.names}, which is not there any more.`, mends: [] });
  return true;
}
