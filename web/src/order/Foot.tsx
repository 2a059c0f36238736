import { Choice } from "../controls/Choice";
import { NumberBox } from "../controls/NumberBox";
import { many } from "../words";
import { useApp } from "../state/store";
import { playRoot } from "./keys";
import { useOrder } from "./state";
import css from "./order.module.css";

const blacks = new Set([1, 3, 6, 8, 10]);
const letters = "AWSEDFTGYHUJ";

/** Under the bands: the keyboard where a clip follows it, or what is selected, or how to begin. */
export function Foot() {
  const view = useOrder((s) => s.view)!;
  const { follow, chosen } = useOrder();
  const clip = view.clips.find((c) => c.id === follow);
  if (clip)
    return (
      <div className={css.foot}>
        <span>
          Keys move <b>{clip.name}</b> along its scale from the next boundary:
        </span>
        <div className={css.piano} role="group" aria-label="Played root">
          {clip.roots.map((root, pitch) => (
            <button
              key={pitch}
              type="button"
              data-black={blacks.has(pitch)}
              title={`${root}: key ${letters[pitch]}`}
              aria-label={`${root} ${letters[pitch]}: ${many(clip.shifts[pitch] ?? 0, "degree")}`}
              onClick={() => playRoot(pitch)}
            >
              <span aria-hidden className="mono">
                {root}
              </span>{" "}
              <kbd aria-hidden>{letters[pitch]}</kbd>
            </button>
          ))}
        </div>
      </div>
    );
  if (chosen.length) return <Chosen />;
  return (
    <div className={css.foot}>
      <span className="quiet">
        {view.entries.length
          ? "A clip's key or name brings it in and takes it out while it plays; what you do is written here as you stop. Drag entries, pull their ends, draw new ones across a band. Drag over the bars to loop."
          : "Nothing is in the order yet. Press a clip's key: it comes in and plays, and what you bring in and out is written here as you stop. Or draw a stretch across a band."}
      </span>
    </div>
  );
}

/** The entries that are selected, in numbers. */
function Chosen() {
  const view = useOrder((s) => s.view)!;
  const { chosen, cursor, set } = useOrder();
  const entries = useApp((s) => s.piece?.order.entries ?? []);
  const first = entries[(chosen[0] ?? 0) - 1];
  const told = view.entries.find((e) => e.number === chosen[0]);
  const clip = view.clips.find((c) => c.id === first?.clip);
  if (!first || !clip) return null;
  const { edit } = useApp.getState();
  const patch = (value: object) => void edit([{ op: "order.set", entries: chosen, patch: value }]);
  const bar = view.barTicks;
  const number = (label: string, value: number, low: number, high: number, change: (v: number) => void) => (
    <label>
      {label}
      <NumberBox label={`${label} of the entry`} value={value} low={low} high={high} onChange={change} />
    </label>
  );
  return (
    <div className={css.foot}>
      <b>{chosen.length > 1 ? many(chosen.length, "entry", "entries") : clip.name}</b>
      {number(
        "Bar",
        Math.floor(first.at / bar) + 1,
        1,
        65536,
        (v) => void edit([{ op: "order.move", entries: chosen, by: (v - 1) * bar - Math.floor(first.at / bar) * bar }]),
      )}
      {number("Bars", Math.round((first.for / bar) * 1000) / 1000, 0.01, 65536, (v) =>
        patch({ for: Math.max(Math.round(v * bar), 1) }),
      )}
      {number("Shift", first.shift, -14, 14, (v) => patch({ shift: v }))}
      <Choice
        label="At its end"
        value={first.run}
        all={["loop", "on"]}
        words={{ loop: "begins again", on: "runs on" }}
        onChange={(run) => patch({ run })}
      />
      <Choice
        label="Its luck"
        value={first.luck}
        all={["fresh", "same"]}
        words={{ fresh: "draws anew", same: "draws the same" }}
        onChange={(luck) => patch({ luck })}
      />
      <label>
        <input type="checkbox" checked={first.ring} onChange={(e) => patch({ ring: e.target.checked })} /> rings out
      </label>
      {chosen.length === 1 && (
        <span className={css.mutes} role="group" aria-label="Lanes that sound">
          {clip.lanes.map((l) => (
            <button
              key={l.id}
              type="button"
              aria-pressed={!first.mute.includes(l.id)}
              title={first.mute.includes(l.id) ? "Muted here" : "Sounds here"}
              onClick={() =>
                patch({
                  mute: first.mute.includes(l.id) ? first.mute.filter((m) => m !== l.id) : [...first.mute, l.id],
                })
              }
            >
              {l.name}
            </button>
          ))}
        </span>
      )}
      <button
        type="button"
        disabled={cursor <= first.at || cursor >= first.at + first.for}
        onClick={() => void edit([{ op: "order.split", entries: chosen, at: cursor }])}
      >
        Split at the cursor
      </button>
      <button type="button" onClick={() => void edit([{ op: "order.copy", entries: chosen, by: 0 }])}>
        Copy after it
      </button>
      <button
        type="button"
        onClick={() => {
          set({ chosen: [] });
          void edit([{ op: "order.remove", entries: chosen }]);
        }}
      >
        Remove
      </button>
      {told?.silent && <span role="status">{told.silent}</span>}
    </div>
  );
}
