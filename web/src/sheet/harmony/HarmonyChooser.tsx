import type { Clip, Harmony } from "../../api/gen/piece.gen";
import { isWhole } from "../../api/held";
import { Choice } from "../../controls/Choice";
import { kindOf } from "../../lanes/kinds";
import { useApp } from "../../state/store";
import css from "./harmony.module.css";

/** Whether a clip has chords of its own. */
const lends = (clip: Clip) =>
  clip.lanes.some((l) => kindOf(l).chords === "always" || (kindOf(l).chords && clip.harmony?.lane === l.id));

/** Where the clip's chords come from, and a bass made of them; nothing as long as nothing
 * in the piece has chords or could have them. */
export function HarmonyChooser({ clip }: { clip: Clip }) {
  const clips = useApp((s) => s.piece?.clips) ?? [];
  const harmony = useApp((s) => s.view?.harmony);
  const own = clip.lanes.filter((l) => kindOf(l).chords);
  const first = own.find((l) => kindOf(l).chords === "always");
  const others = clips.filter((c) => c.id !== clip.id && (isWhole(c) ? lends(c) : c.chords));
  if (!own.length && !others.length) return null;
  const options = new Map<string, [string, Harmony | null]>([
    ["", [first ? `${first.name} (the first)` : "none", null]],
    ...own
      .filter((l) => l !== first)
      .map((l): [string, [string, Harmony]] => [
        `lane ${l.id}`,
        [kindOf(l).chords === "asked" ? `${l.name}, as played` : l.name, { clip: "", lane: l.id }],
      ]),
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
