import { Modal } from "@mantine/core";
import { togglePlay, audition } from "../audio/player";
import { addLane, copySteps, laneOp, onSteps, pasteSteps, repeatSteps, resizeBy, setEach, setLane, setSelected, toggle } from "../state/actions";
import { clipOf, laneOf, laneViewOf, useApp } from "../state/store";
import css from "./keys.module.css";

/** One key of the sheet. To add a key, add a row: the handler and the list that
 * ? opens both come from here. */
interface Key {
  keys: string[];
  shown: string;
  does: string;
  group: string;
  run: (e: React.KeyboardEvent) => void;
}

const app = useApp.getState;

/** Moves the cursor by steps; with Shift the selection grows with it. */
function walk(by: number, extend: boolean): void {
  const s = app();
  const lane = laneOf(s);
  if (!lane) return;
  const start = s.selection.length ? s.cursor : s.cursor - by;
  const next = Math.min(Math.max(start + by, 0), lane.steps.length - 1);
  s.select(extend ? [...s.selection, next] : [next], next);
}

/** Puts the selected steps on, where they stand, or off. */
function onOff(): void {
  ensureCursor();
  toggle((step) => step.on, { on: true }, { on: false });
  const s = app();
  const view = laneViewOf(s);
  const lane = laneOf(s);
  if (view && lane) audition(lane, view.pitches[s.cursor]);
}

function ensureCursor(): void {
  const s = app();
  if (!s.selection.length) s.select([s.cursor], s.cursor);
}

function move(unit: string, by: number): void {
  ensureCursor();
  onSteps("steps.transpose", { unit, by });
}

function nextLane(by: number): void {
  const s = app();
  const lanes = clipOf(s)?.lanes ?? [];
  const at = lanes.findIndex((l) => l.id === s.lane);
  const next = lanes[Math.min(Math.max(at + by, 0), lanes.length - 1)];
  if (next) s.openLane(next.id);
}

const clamp = (v: number, low: number, high: number) => Math.min(Math.max(v, low), high);

const plain = (key: string, shown: string, group: string, does: string, run: Key["run"]): Key => ({ keys: [key], shown, group, does, run });

const keys: Key[] = [
  plain("ArrowRight", "→ ←", "Walk", "Next or previous step; Shift keeps the selection", (e) => walk(1, e.shiftKey)),
  { keys: ["ArrowLeft"], shown: "", group: "Walk", does: "", run: (e) => walk(-1, e.shiftKey) },
  plain("PageDown", "Page ↓ ↑", "Walk", "Next or previous lane", () => nextLane(1)),
  { keys: ["PageUp"], shown: "", group: "Walk", does: "", run: () => nextLane(-1) },
  plain("Home", "Home", "Walk", "First step", () => app().select([0], 0)),
  plain("Escape", "Esc", "Walk", "Select nothing", () => app().select([])),
  plain("Mod+a", "Ctrl A", "Walk", "All steps of the lane", () => app().select(laneOf(app())?.steps.map((_, i) => i) ?? [])),
  plain("Enter", "Enter", "Note", "Note on or off", onOff),
  plain("r", "R", "Note", "Make it a rest", () => (ensureCursor(), setSelected({ on: false }))),
  plain("Delete", "Delete", "Note", "Make it a rest", () => (ensureCursor(), setSelected({ on: false }))),
  plain("ArrowUp", "↑ ↓", "Note", "Up or down a degree", () => move("degree", 1)),
  { keys: ["ArrowDown"], shown: "", group: "Note", does: "", run: () => move("degree", -1) },
  plain("Alt+ArrowUp", "Alt ↑ ↓", "Note", "Up or down an octave", () => move("octave", 1)),
  { keys: ["Alt+ArrowDown"], shown: "", group: "Note", does: "", run: () => move("octave", -1) },
  plain("Mod+ArrowUp", "Ctrl ↑ ↓", "Note", "Up or down a semitone", () => move("semitone", 1)),
  { keys: ["Mod+ArrowDown"], shown: "", group: "Note", does: "", run: () => move("semitone", -1) },
  {
    keys: ["1", "2", "3", "4", "5", "6", "7", "8", "9"], shown: "1 … 9", group: "Note", does: "A note on that degree",
    run: (e) => {
      const degree = Number(e.key);
      if (degree > (app().view?.keyNotes.length ?? 7)) return;
      ensureCursor();
      setSelected({ on: true, degree, alter: 0 });
    },
  },
  plain("t", "T", "Shape", "Tie to the next step", () => (ensureCursor(), toggle((s) => s.tie, { tie: true }, { tie: false }))),
  plain("g", "G", "Shape", "Glide into the step", () => (ensureCursor(), toggle((s) => s.glide != null, { glide: { time: 50, curve: 0 } }, { glide: null }))),
  plain("a", "A", "Shape", "Accent", () => (ensureCursor(), toggle((s) => s.velocity >= 118, { velocity: 120 }, { velocity: 100 }))),
  plain("k", "K", "Shape", "Skip the step", () => (ensureCursor(), toggle((s) => s.skip, { skip: true }, { skip: false }))),
  plain("c", "C", "Shape", "Chance: 100, 75, 50, 25 %", () => (ensureCursor(), setEach("chance", (s) => (s.chance <= 25 ? 100 : s.chance <= 50 ? 25 : s.chance <= 75 ? 50 : 75)))),
  plain("h", "H", "Shape", "Ratchet: 1, 2, 3, 4", () => (ensureCursor(), setEach("ratchet", (s) => (s.ratchet % 4) + 1))),
  plain(",", ", .", "Shape", "Gate shorter or longer", () => (ensureCursor(), setEach("gate", (s) => clamp(s.gate - 5, 1, 400)))),
  { keys: ["."], shown: "", group: "Shape", does: "", run: () => (ensureCursor(), setEach("gate", (s) => clamp(s.gate + 5, 1, 400))) },
  plain("-", "− +", "Shape", "Softer or harder", () => (ensureCursor(), setEach("velocity", (s) => clamp(s.velocity - 6, 1, 127)))),
  { keys: ["+", "="], shown: "", group: "Shape", does: "", run: () => (ensureCursor(), setEach("velocity", (s) => clamp(s.velocity + 6, 1, 127))) },
  { keys: ["<", ">"], shown: "< >", group: "Many", does: "Rotate by a step", run: (e) => onSteps("steps.rotate", { by: e.key === "<" ? -1 : 1 }) },
  plain("b", "B", "Many", "Turn back to front", () => onSteps("steps.reverse")),
  plain("Mod+c", "Ctrl C", "Many", "Copy", copySteps),
  plain("Mod+v", "Ctrl V", "Many", "Paste at the cursor", pasteSteps),
  plain("Mod+d", "Ctrl D", "Many", "Repeat the selection after itself", repeatSteps),
  plain("w", "W", "Many", "Double the lane with its content", () => void app().edit([laneOp(app(), "lane.double")])),
  { keys: ["[", "]"], shown: "[ ]", group: "Many", does: "One step fewer or more in the lane", run: (e) => resizeBy(e.key === "[" ? -1 : 1) },
  plain("n", "N", "Lane", "New lane", () => void addLane()),
  plain("m", "M", "Lane", "Mute the lane", () => withLane((l) => setLane(l.id, { mute: !l.mute }))),
  plain("s", "S", "Lane", "Solo the lane", () => withLane((l) => setLane(l.id, { solo: !l.solo }))),
  plain(" ", "Space", "Everywhere", "Play or stop", () => void togglePlay()),
  plain("Mod+z", "Ctrl Z", "Everywhere", "Undo", () => void app().walk("undo")),
  plain("Mod+Shift+Z", "Ctrl Shift Z", "Everywhere", "Redo", () => void app().walk("redo")),
  plain("y", "Y", "Everywhere", "Choose the key and scale", () => app().set({ panel: "key" })),
  plain("e", "E", "Everywhere", "Render to a MIDI file", () => app().set({ panel: "render" })),
  plain("?", "?", "Everywhere", "This list", () => app().set({ panel: "keys" })),
];

function withLane(f: (lane: { id: string; mute: boolean; solo: boolean }) => void): void {
  const lane = laneOf(app());
  if (lane) f(lane);
}

function nameOf(e: React.KeyboardEvent): string {
  const mod = e.ctrlKey || e.metaKey;
  const letter = e.key.length === 1 && mod ? (e.shiftKey ? e.key.toUpperCase() : e.key.toLowerCase()) : e.key;
  return `${mod ? "Mod+" : ""}${e.altKey ? "Alt+" : ""}${mod && e.shiftKey && e.key.length === 1 ? "Shift+" : ""}${letter}`;
}

const everywhere = new Set(["Everywhere"]);
const byName = new Map(keys.flatMap((k) => k.keys.map((name) => [name, k] as const)));

/** Keys on the sheet. */
export function onKey(e: React.KeyboardEvent): void {
  const target = e.target as HTMLElement;
  if (target.closest("input, select, textarea")) return;
  if (target.closest("button, a") && (e.key === "Enter" || e.key === " ")) return;
  const key = byName.get(nameOf(e));
  if (!key) return;
  e.preventDefault();
  e.stopPropagation();
  key.run(e);
}

/** Keys outside the sheet: only those that hold everywhere. */
export function onKeyEverywhere(e: React.KeyboardEvent): void {
  const key = byName.get(nameOf(e));
  if (key && everywhere.has(key.group) && !app().panel) onKey(e);
}

/** The list of all keys. */
export function KeyList() {
  const open = useApp((s) => s.panel === "keys");
  const groups = [...new Set(keys.map((k) => k.group))];
  return (
    <Modal opened={open} onClose={() => app().set({ panel: null })} title="Keys" size="xl">
      <div className={css.groups}>
        {groups.map((group) => (
          <section key={group}>
            <h3>{group}</h3>
            <dl>
              {keys.filter((k) => k.group === group && k.shown).map((k) => (
                <div key={k.shown + k.does}>
                  <dt className="mono">{k.shown}</dt>
                  <dd>{k.does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
        <section>
          <h3>Mouse</h3>
          <dl>
            <div><dt>Click, drag</dt><dd>Put notes, paint on</dd></div>
            <div><dt>Drag a pod</dt><dd>Up and down: pitch; its end: gate, past the step line a tie</dd></div>
            <div><dt>Double click</dt><dd>Take a note away</dd></div>
            <div><dt>Shift</dt><dd>Select on the ladder; a straight line on a rail</dd></div>
            <div><dt>Alt drag</dt><dd>Draw a contour: pitches follow, rhythm stays</dd></div>
            <div><dt>Ctrl wheel</dt><dd>More or less time on the sheet</dd></div>
          </dl>
        </section>
      </div>
    </Modal>
  );
}
