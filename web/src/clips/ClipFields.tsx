import { Choice } from "../controls/Choice";
import { facts } from "../api/facts";
import { NumberBox } from "../controls/NumberBox";
import { ActionMenu } from "../controls/Popup";
import { TextBox } from "../controls/TextBox";
import { setClip } from "../state/actions";
import { clipOf, useApp } from "../state/store";
import { newVariant, stackOf } from "../state/variants";
import css from "./ClipFields.module.css";

/** Where a clip can end, in words. */
const ends = { bars: "after … bars", cycle: "after a cycle", realign: "at the bar" };

/** Removes a clip, and says what of the running order goes with it. */
async function removeClip(clip: string, name: string): Promise<void> {
  const { piece, edit, set } = useApp.getState();
  const played = piece?.order.entries.filter((e) => e.clip === clip).length ?? 0;
  if ((await edit([{ op: "clip.remove", clip }])) && played > 0)
    set({
      remark: `${name} stood in the running order: ${played === 1 ? "its entry is" : `its ${played} entries are`} gone with it. Undo brings all back.`,
    });
}

/** What is set for the clip that is open. */
export function ClipFields() {
  const doc = useApp(clipOf)!;
  const view = useApp((s) => s.view);
  const { edit } = useApp.getState();
  const clips = useApp((s) => s.piece?.clips ?? []);
  const at = clips.findIndex((c) => c.id === doc.id) + 1;
  const stack = useApp((s) => stackOf(s).length);
  const fact = facts.clip;
  const on = { clip: doc.id };
  const end = (value: string) =>
    setClip(
      value === "bars"
        ? { bars: Math.max(1, Math.round((view?.ticks ?? 0) / (view?.barTicks ?? 1))) }
        : { until: value },
    );
  return (
    <section className={css.settings} aria-label={`The clip ${doc.name}`}>
      <h2>Clip</h2>
      <label>
        Name
        <TextBox
          label="Name of the clip"
          value={doc.name}
          longest={fact.name.longest}
          onChange={(name) => setClip({ name })}
        />
      </label>
      <label>
        Ends
        <Choice
          label="Where the clip ends"
          value={doc.bars ? "bars" : doc.until}
          all={Object.keys(ends)}
          words={ends}
          onChange={end}
        />
      </label>
      {doc.bars ? (
        <label>
          Bars
          <NumberBox
            label="Bars of the clip"
            value={doc.bars}
            low={fact.bars.low}
            high={fact.bars.high}
            onChange={(bars) => setClip({ bars })}
          />
        </label>
      ) : null}
      <label title={fact.seam.doc}>
        Starts
        <Choice
          label="How the clip starts"
          value={doc.seam}
          all={fact.seam.choices}
          words={{ fresh: "fresh", loop: "as if come round" }}
          onChange={(seam) => setClip({ seam })}
        />
      </label>
      <ActionMenu
        button={<button className={css.more}>More ▸</button>}
        position="right-end"
        items={[
          { label: "Double it, to vary the second half", run: () => void edit([{ op: "clip.double", ...on }]) },
          { label: "New variant", run: () => void newVariant() },
          {
            label: "Compare the variants",
            disabled: stack < 2,
            run: () => useApp.getState().set({ panel: "versions" }),
          },
          { label: "Take the stack apart", disabled: stack < 2, run: () => void edit([{ op: "clip.apart", ...on }]) },
          { label: "Duplicate the clip", run: () => void edit([{ op: "clip.copy", ...on }]) },
          { label: "Move up", disabled: at <= 1, run: () => void edit([{ op: "clip.move", ...on, to: at - 1 }]) },
          {
            label: "Move down",
            disabled: at >= clips.length,
            run: () => void edit([{ op: "clip.move", ...on, to: at + 1 }]),
          },
          { label: "" },
          { label: "Remove the clip", run: () => void removeClip(doc.id, doc.name) },
        ]}
      />
    </section>
  );
}
