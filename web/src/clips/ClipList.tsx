import { useState } from "react";
import { api } from "../api/client";
import { useThumbs } from "../api/queries";
import { FilePick } from "../controls/FilePick";
import { showFile } from "../dialogs/intake/state";
import { TabList } from "../controls/TabList";
import { useSheet } from "../state/sheet";
import { useApp } from "../state/store";
import { usePlaying } from "../state/player";
import { InOut, useSounding } from "../order/InOut";
import { Miniature } from "./Miniature";
import css from "./ClipList.module.css";

/** So many clips are found without looking for them. */
const FEW = 8;

/** The clips as the tabs of a notebook, each with its result in miniature. */
export function ClipList() {
  const clip = useApp((s) => s.clip);
  const id = useApp((s) => s.id);
  const thumbs = useThumbs(id).data ?? [];
  const openClip = useApp((s) => s.openClip);
  const playing = usePlaying();
  const sounding = useSounding();
  const plays = (id: string) => playing && (sounding ? sounding.includes(id) : id === clip);
  const reading = useSheet((s) => s.reading);
  const blind = useApp((s) => s.blind);
  const of = useApp((s) => s.piece?.clips);
  const [find, setFind] = useState("");
  const edit = useApp.getState().edit;
  const shown = thumbs.filter((t) => t.name.toLowerCase().includes(find.trim().toLowerCase()));
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
      {thumbs.length > FEW && (
        <input
          type="search"
          className={css.find}
          aria-label="Find a clip"
          placeholder={`find among ${thumbs.length}`}
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      )}
      {find && !shown.length && <p className={css.blind}>No clip is called so.</p>}
      <TabList
        vertical
        onMove={
          reading || find
            ? undefined
            : (moved, to) => void edit([{ op: "clip.move", clip: moved, to: thumbs.findIndex((t) => t.id === to) + 1 }])
        }
        className={css.tabs}
        tabClass={css.tab}
        value={clip}
        onChange={(next) => {
          useApp.getState().set({ drawer: null });
          void openClip(next);
        }}
        items={shown.map((t) => ({
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
                {t.lasts}
                {plays(t.id) ? " · plays" : t.plays ? "" : " · silent"}
              </span>
            </>
          ),
        }))}
      />
      {sounding && (
        <InOut
          clip={clip}
          name={thumbs.find((t) => t.id === clip)?.name ?? "it"}
          sounds={sounding.includes(clip)}
          className={css.turn}
        />
      )}
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
      <a className={css.export} href={api.documentUrl(id)} download>
        Save piece as a file
      </a>
    </nav>
  );
}
