import { signOn } from "../controls/pressed";
import { only, shift } from "./live";
import { useApp } from "../state/store";
import { togglePlay } from "../state/player";
import { keyName, press, release } from "./held";
import { perform, showOrder, useOrder } from "./state";
import { BAR, BEAT } from "../api/default";

const state = useOrder.getState;
const app = useApp.getState;

/** The places on the computer's keyboard that stand for the clips, from the first on. */
const PLACES = [
  ..."1234567890".split("").map((d) => [`Digit${d}`, d]),
  ..."qwertyuiopasdfghjklzxcvbnm".split("").map((l) => [`Key${l.toUpperCase()}`, l.toUpperCase()]),
] as [string, string][];

/** The places that are a keyboard of an octave while a clip follows it, from C up. */
const PIANO = ["KeyA", "KeyW", "KeyS", "KeyE", "KeyD", "KeyF", "KeyT", "KeyG", "KeyY", "KeyH", "KeyU", "KeyJ"];

/** Where a key is on the keyboard; by what it writes, where the browser does not say. */
function placeOf(e: KeyboardEvent): string {
  if (e.code) return e.code;
  return PLACES.find(([, shown]) => shown === e.key.toUpperCase())?.[0] ?? "";
}

/** The key that stands for a clip, by its place in the piece; empty: none is left. */
export const keyOf = (index: number): string => {
  const place = PLACES[index];
  return place ? signOn(...place) : "";
};

/** Moves the clip that follows the keyboard, by a key's pitch class. */
export function playRoot(pitch: number): void {
  const { follow, view } = state();
  const by = view?.clips.find((c) => c.id === follow)?.shifts[((pitch % 12) + 12) % 12];
  if (follow && by !== undefined) void perform(follow, (all, tick) => shift(all, follow, by, tick));
}

const bars = (n: number) => n * (state().view?.barTicks ?? BAR);
const beats = (n: number) => n * (state().view?.beatTicks ?? BEAT);

/** Chooses the next or previous entry in order of time. */
function choose(by: number): void {
  const { view, chosen } = state();
  const all = [...(view?.entries ?? [])].sort((a, b) => a.at - b.at || a.number - b.number);
  const now = all.findIndex((e) => e.number === chosen[chosen.length - 1]);
  const next = all[Math.min(Math.max(now + by, 0), all.length - 1)];
  if (next) state().set({ chosen: [next.number] });
}

/** Takes a key while the view of the order is open; false: it means nothing here. */
export function orderKey(e: KeyboardEvent): boolean {
  const { open, follow, chosen, cursor } = state();
  if (!open || e.altKey) return false;
  if (e.ctrlKey || e.metaKey) return false;
  const edit = (ops: Parameters<ReturnType<typeof app>["edit"]>[0]) => void app().edit(ops);
  const code = placeOf(e);
  if (e.key === "O") {
    showOrder(false);
    return true;
  }
  switch (e.key) {
    case " ":
      void togglePlay();
      return true;
    case "Escape":
      state().set({ chosen: [], follow: "" });
      return true;
    case "Home":
      state().set({ cursor: 0, scroll: 0 });
      return true;
    case "ArrowUp":
    case "ArrowDown":
      choose(e.key === "ArrowUp" ? -1 : 1);
      return true;
    case "ArrowLeft":
    case "ArrowRight": {
      const by = (e.key === "ArrowLeft" ? -1 : 1) * (e.shiftKey ? bars(1) : beats(1));
      if (chosen.length) edit([{ op: "order.move", entries: chosen, by }]);
      else state().set({ cursor: Math.max(cursor + by, 0) });
      return true;
    }
    case ",":
    case ".":
    case "<":
    case ">":
      if (chosen.length)
        edit([
          {
            op: "order.stretch",
            entries: chosen,
            by: (e.key === "," || e.key === "<" ? -1 : 1) * (e.key === "<" || e.key === ">" ? bars(1) : beats(1)),
          },
        ]);
      return true;
    case "/":
      if (chosen.length) edit([{ op: "order.split", entries: chosen, at: cursor }]);
      return true;
    case "=": {
      const own = state().view?.entries.filter((x) => chosen.includes(x.number)) ?? [];
      const length = Math.max(...own.map((x) => x.at + x.for)) - Math.min(...own.map((x) => x.at));
      if (own.length) edit([{ op: "order.copy", entries: chosen, by: length }]);
      return true;
    }
    case "Delete":
    case "Backspace":
      if (chosen.length) {
        state().set({ chosen: [] });
        edit([{ op: "order.remove", entries: chosen }]);
      }
      return true;
    case "?":
    case "P":
      return false; // as everywhere
  }
  if (e.repeat) return PLACES.some(([own]) => own === code);
  const root = PIANO.indexOf(code);
  if (follow && root >= 0) {
    playRoot(root);
    return true;
  }
  const place = PLACES.findIndex(([own]) => own === code);
  const clip = state().view?.clips[place];
  if (place < 0) return false;
  if (clip) press(keyName(code), clip.id, e.shiftKey);
  return true;
}

/** Takes a key that was let go, in the order or on the sheet. */
export const orderKeyUp = (e: KeyboardEvent): void => release(keyName(placeOf(e)));

/** Takes a key on the sheet while the order plays: with Alt a clip's key brings it in and takes it out, as without on
 * the view of the order. False: it means nothing here. */
export function keyBesideOrder(e: KeyboardEvent): boolean {
  const { open, live, view } = state();
  if (open || !live || !e.altKey || e.ctrlKey || e.metaKey || e.repeat) return false;
  const clip = view?.clips[PLACES.findIndex(([own]) => own === placeOf(e))];
  if (clip) press(keyName(placeOf(e)), clip.id, e.shiftKey);
  return clip !== undefined;
}

/** Lets one clip sound alone. */
export const alone = (clip: string): void => void perform(clip, (all, tick) => only(all, clip, tick));
