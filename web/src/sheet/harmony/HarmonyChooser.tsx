import type { Clip, Harmony } from "../../api/gen/piece.gen";
import { isWhole } from "../../api/held";
import { Choice } from "../../controls/Choice";
import { kindOf } from "../../lanes/kinds";
import { useApp } from "../../state/store";
import css from "./harmony.module.css";

/** Where the clip's chords come from, and a bass made of them; nothing as long as the
 * piece has no chords. */
export function HarmonyChooser({ clip }: { clip: Clip }) {
  const clips = useApp((s) => s.piece?.clips) ?? [];
  const harmony = useApp((s) => s.view?.harmony);
  const own = clip.lanes.filter((l) => kindOf(l).chords);
  const others = clips.filter(
    (c) => c.id !== clip.id && (isWhole(c) ? c.lanes.some((l) => kindOf(l).chords) : c.chords),
  );
  if (!own.length && !others.length) return null;
  const first = own[0];
  const options = new Map<string, [string, Harmony | null]>([
    ["", [first ? `${first.name} (the first)` : "none", null]],
    ...own.slice(1).map((l): [string, [string, Harmony]] => [`lane ${l.id}`, [l.name, { clip: "", lane: l.id }]]),
    ...others.map((c): [string, [string, Harmony]] => [
      `clip ${c.id}`,
      [`those of ${c.name}`, { clip: c.id, lane: "" }],
    ]),
  ]);
  const chosen = clip.harmony?.clip
    ? `clip ${clip.harmony.clip}`
    : clip.harmony?.lane
      ? `lane ${clip.harmony.lane}`
      : "";
  return (
    <span className={css.harmony}>
      <label htmlFor="harmony">Harmony</label>
      <Choice
        id="harmony"
        label="Where the chords come from"
        value={options.has(chosen) ? chosen : ""}
        all={[...options.keys()]}
        words={Object.fromEntries([...options].map(([id, [name]]) => [id, name]))}
        onChange={(id) => {
          const next = options.get(id)?.[1] ?? null;
          const named = next && (next.clip ? { clip: next.clip } : { lane: next.lane });
          void useApp.getState().edit([{ op: "clip.harmony", clip: clip.id, harmony: named as Harmony | null }]);
        }}
      />
      <button disabled={!harmony} onClick={() => useApp.getState().set({ panel: "bass" })}>
        Bass from the chords
      </button>
    </span>
  );
}
