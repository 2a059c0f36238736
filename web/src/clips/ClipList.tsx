import { many } from "../controls/words";
import { useDebouncedValue } from "@mantine/hooks";
import { api } from "../api/client";
import { useThumbs } from "../api/queries";
import { Choice } from "../controls/Choice";
import { facts } from "../controls/facts";
import { FilePick } from "../controls/FilePick";
import { showFile } from "../dialogs/intake/state";
import { NumberBox } from "../controls/NumberBox";
import { ActionMenu } from "../controls/Popup";
import { TabList } from "../controls/TabList";
import { TextBox } from "../controls/TextBox";
import { setClip } from "../state/actions";
import { useSheet } from "../state/sheet";
import { clipOf, useApp } from "../state/store";
import { usePlaying } from "../audio/player";
import { newVariant, stackOf } from "./variants";
import { Miniature } from "./Miniature";
import css from "./ClipList.module.css";

/** The clips as the tabs of a notebook, each with its result in miniature. */
export function ClipList() {
  const clip = useApp((s) => s.clip);
  const doc = useApp(clipOf);
  const id = useApp((s) => s.id);
  const [version] = useDebouncedValue(
    useApp((s) => s.version),
    150,
  );
  const thumbs = useThumbs(id, version).data ?? [];
  const openClip = useApp((s) => s.openClip);
  const playing = usePlaying();
  const reading = useSheet((s) => s.reading);
  const blind = useApp((s) => s.blind);
  const of = useApp((s) => s.piece?.clips);
  const variant = (id: string) => {
    const head = of?.find((c) => c.id === id)?.of;
    return head ? (of ?? []).filter((c) => c.of === head).findIndex((c) => c.id === id) + 2 : 0;
  };
  if (blind && !blind.told)
    return (
      <nav className={css.index} aria-label="Clips">
        <p className={css.blind}>Names are hidden while you listen.</p>
      </nav>
    );
  return (
    <nav className={css.index} aria-label="Clips">
      <TabList
        vertical
        className={css.tabs}
        tabClass={css.tab}
        value={clip}
        onChange={(next) => {
          useApp.getState().set({ drawer: null });
          void openClip(next);
        }}
        items={thumbs.map((t) => ({
          value: t.id,
          title: `${t.name}, ${t.key}`,
          label: (
            <>
              <span className={css.name}>
                {variant(t.id) > 0 && <span className={css.variant}>{variant(t.id)}</span>}
                {t.name}
              </span>
              <Miniature thumb={t} />
              <span className={css.facts}>
                {many(t.bars, "bar")}
                {playing && t.id === clip ? " · plays" : t.plays ? "" : " · silent"}
              </span>
            </>
          ),
        }))}
      />
      {!reading && (
        <button className={css.add} onClick={() => useApp.getState().set({ panel: "clip" })}>
          New clip
        </button>
      )}
      {!reading && (
        <FilePick label="MIDI file to bring in" accept=".mid,.midi,audio/midi" className={css.bring} onFile={showFile}>
          Bring in a MIDI file
        </FilePick>
      )}
      {doc && !reading && <ClipSettings key={doc.id} />}
      <a className={css.export} href={api.documentUrl(id)} download>
        Save piece as a file
      </a>
    </nav>
  );
}

/** Where a clip can end, in words. */
const ends = { bars: "after … bars", cycle: "after a cycle", realign: "at the bar" };

function ClipSettings() {
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
    <div className={css.settings}>
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
          { label: "Remove the clip", run: () => void edit([{ op: "clip.remove", ...on }]) },
        ]}
      />
    </div>
  );
}
