import type { Lane } from "../api/gen/schema.gen";
import { newVariant, openVariant } from "../state/variants";
import { laneFact } from "../api/facts";
import { keepsKey } from "../controls/hands";
import { learn, pressed } from "../controls/pressed";
import { closeNewest } from "../controls/opening";
import { playKey } from "../input/keys";
import { pasteLane } from "../dialogs/starters/state";
import { useEnter } from "../input/state";
import { kindOf, laneKinds } from "../lanes/kinds";
import { stepKeys, stepped } from "../lanes/steps/keys";
import { keyBesideOrder, orderKey } from "../order/keys";
import { togglePlay } from "../state/player";
import { showOrder, useOrder } from "../order/state";
import { bypassAll, copySteps, flip, here, pasteSteps, repeatSteps, resizeBy } from "../state/actions";
import { clipOf, laneOf, laneViewOf, placesOf, useApp } from "../state/store";
import { turnAgainst } from "../state/stems";
import { loopSelected } from "../sheet/loops";
import { useSheet } from "../state/sheet";
import { alsoKey, key, type Key } from "../controls/key";

const app = useApp.getState;

function nextLane(by: number): void {
  const s = app();
  const lanes = clipOf(s)?.lanes ?? [];
  const at = lanes.findIndex((l) => l.id === s.lane);
  const next = lanes[Math.min(Math.max(at + by, 0), lanes.length - 1)];
  if (!next) return;
  s.goTo(next.id);
  if (!kindOf(next).live) useSheet.getState().show(next.id);
}

function withLane(work: (id: string) => void): void {
  const lane = laneOf(app());
  if (lane) work(lane.id);
}

/** A key that changes no step. */
const reading = (own: Key): Key => ({ ...own, reads: true });

/** A key that holds for lanes with steps or notes of their own. */
const withPlaces = (own: Key): Key => ({ ...own, holds: (lane) => placesOf(lane) > 0 });

/** Keys that hold whatever kind of lane is worked on. */
const sharedKeys: Key[] = [
  reading(key("PageDown", "Page ↓ ↑", "Walk", "Next or previous lane", () => nextLane(1))),
  reading(alsoKey("PageUp", "Walk", () => nextLane(-1))),
  key("Escape", "Esc", "Walk", "Select nothing, and loop nothing", () => {
    app().select([]);
    useSheet.getState().set({ loop: null });
  }),
  withPlaces(key("Mod+c", "Ctrl C", "Many", "Copy", copySteps)),
  withPlaces(
    key("Mod+v", "Ctrl V", "Many", "Paste at the cursor; a lane that was copied, into the clip", () => pasteSteps()),
  ),
  withPlaces(key("Mod+d", "Ctrl D", "Many", "Repeat the selection after itself", repeatSteps)),
  withPlaces(
    key(
      "w",
      "W",
      "Many",
      "Double the lane with its content",
      () => void app().edit([{ op: "lane.double", ...here() }]),
    ),
  ),
  {
    keys: ["[", "]"],
    shown: "[ ]",
    group: "Many",
    does: "One step fewer or more in the lane",
    holds: stepped,
    run: (e) => {
      const lane = laneOf(app());
      if (lane && placesOf(lane)) resizeBy(e.key === "[" ? -1 : 1, laneFact.steps.high);
    },
  },
  reading(key("m", "M", "Lane", "Mute the lane", () => withLane((id) => flip(id, "mute")))),
  key("M", "Shift M", "Lane", "Without what moves it: modulators, luck, range, groove; and back", () =>
    withLane(bypassAll),
  ),
  reading(
    key("S", "Shift S", "Lane", "Snap to the lane’s onsets, which stand as stems through all lanes; and back", () =>
      withLane((id) => laneViewOf(app())?.notes.length && turnAgainst(id)),
    ),
  ),
  reading(key("s", "S", "Lane", "Solo the lane", () => withLane((id) => flip(id, "solo")))),
  reading(key(" ", "Space", "Everywhere", "Play or stop", () => void togglePlay())),
  reading(key("R", "Shift R", "Everywhere", "Loop the bars of the selection; again: all of the clip", loopSelected)),
  key("Mod+z", "Ctrl Z", "Everywhere", "Undo", () => void app().walk("undo")),
  key("Mod+Shift+Z", "Ctrl Shift Z", "Everywhere", "Redo", () => void app().walk("redo")),
  key(
    "l",
    "L",
    "Lane",
    "Print lanes as free notes",
    () => clipOf(app())?.lanes.length && app().set({ panel: "print" }),
  ),
  key("W", "Shift W", "Lane", "Double the clip, its second half to be varied", () => {
    if (clipOf(app())) void app().edit([{ op: "clip.double", clip: app().clip }]);
  }),
  key("z", "Z", "Lane", "Sketch or vary the lane by chance", () => laneOf(app()) && app().set({ panel: "sketch" })),
  key("V", "Shift V", "Everywhere", "A new variant of the clip", () => void newVariant()),
  key(
    "D",
    "Shift D",
    "Everywhere",
    "See and hear the variants side by side",
    () => clipOf(app()) && app().set({ panel: "versions" }),
  ),
  reading({
    keys: Array.from({ length: 9 }, (_, i) => `Shift+${i + 1}`),
    shown: "Shift 1 … 9",
    group: "Everywhere",
    does: "Change to another variant, at the very place in the loop",
    run: (e) => void openVariant(Number(e.code.slice(-1))),
  }),
  key("x", "X", "Lane", "Make a bass from the chords", () => app().view?.harmony && app().set({ panel: "bass" })),
  key("p", "P", "Lane", "A keyboard to play and to write notes", () => useEnter.getState().set({ open: true })),
  key("y", "Y", "Everywhere", "Choose the key and scale", () => app().set({ panel: "key" })),
  key("O", "Shift O", "Everywhere", "The running order, and back to the sheet", () => showOrder()),
  key("P", "Shift P", "Everywhere", "Where it sounds: voices, ports, clock", () => app().set({ panel: "ports" })),
  reading(key("e", "E", "Everywhere", "Render to a MIDI file", () => app().set({ panel: "render" }))),
];

/** Keys that hold on every page. */
const pageKeys: Key[] = [reading(key("?", "?", "Everywhere", "This list", () => app().set({ panel: "keys" })))];

/** Keys of the kinds that hold whatever lane is worked on. */
const anywhere: Key[] = Object.values(laneKinds).flatMap((kind) => kind.anywhere);

/** All keys that hold for a lane; those of its kind come before the shared ones. */
const keysOf = (lane: Lane | undefined): Key[] =>
  [...(lane ? [...kindOf(lane).keys, ...stepKeys] : []), ...anywhere, ...sharedKeys, ...pageKeys].filter(
    (k) => !k.holds || (lane && k.holds(lane)),
  );

/** The keys of all kinds of lanes. */
const keysOfAll = (): Key[] => [...Object.values(laneKinds).flatMap((kind) => kind.keys), ...stepKeys];

/** The keys as the list shows them for a lane, each with what it does there: none of which another has taken the place.
 * Without a lane they are those of all kinds. */
export function listedKeys(lane: Lane | undefined): Key[] {
  const all = lane ? keysOf(lane) : [...keysOfAll(), ...keysOf(undefined)];
  return all.filter((k, i) => {
    const before = all.slice(0, i);
    if (!lane) return k.shown && !before.some((o) => o.shown === k.shown && o.does === k.does);
    const taken = new Set(before.flatMap((o) => o.keys));
    return k.shown && k.keys.some((name) => !taken.has(name));
  });
}

function nameOf(e: KeyboardEvent): string {
  const mod = e.ctrlKey || e.metaKey;
  const letter = e.key.length === 1 && mod ? (e.shiftKey ? e.key.toUpperCase() : e.key.toLowerCase()) : e.key;
  return `${mod ? "Mod+" : ""}${e.altKey ? "Alt+" : ""}${mod && e.shiftKey && e.key.length === 1 ? "Shift+" : ""}${letter}`;
}

/** Keys of the sheet that hold in the running order too. */
const inOrder = ["Mod+z", "Mod+Shift+Z", "?", "P"];

/** Closes the drawer; false: none is open. */
function closeDrawer(): boolean {
  const was = app().drawer;
  app().set({ drawer: null });
  return was !== null;
}

/** Keys work wherever the focus is, but where that keeps them, and in a dialog. The view follows
 * the step that they go to. */
export function onKey(event: KeyboardEvent): void {
  const { panel, conflict, id } = app();
  if (event.defaultPrevented || panel || conflict || keepsKey(event)) return;
  const e = pressed(event);
  if (learn(event) && useOrder.getState().open) useOrder.getState().set({}); // its signs may be others now
  if (id && playKey(e)) {
    event.preventDefault();
    return;
  }
  if (e.key === "Escape" && (closeNewest() || closeDrawer())) return;
  if (id && keyBesideOrder(e)) {
    event.preventDefault();
    return;
  }
  if (id && useOrder.getState().open) {
    if (orderKey(e)) {
      event.preventDefault();
      return;
    }
    if (!inOrder.includes(nameOf(e))) return;
  }
  const lane = laneOf(app());
  const all = id ? keysOf(lane) : pageKeys;
  // A sign that stands on a digit's key comes before the digit with Shift.
  const digit = e.shiftKey && !e.altKey && !e.ctrlKey && !e.metaKey && /^[1-9]$/.test(e.key) ? `Shift+${e.key}` : "";
  const paste = nameOf(e) === "Mod+v" && app().laneCopied && clipOf(app());
  if (paste && !useSheet.getState().reading) {
    event.preventDefault();
    void pasteLane(); // a lane was copied last
    return;
  }
  const found = digit ? all.find((k) => k.keys.includes(digit)) : all.find((k) => k.keys.includes(nameOf(e)));
  if (!found || (useSheet.getState().reading && !found.reads)) return;
  event.preventDefault();
  found.run(e);
  const { lane: gone, cursor: place } = app();
  useSheet.getState().set({ follow: { lane: gone, place, note: false } });
}
