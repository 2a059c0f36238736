import { Checkbox } from "@mantine/core";
import { useRef, useState } from "react";
import { api, type FileOrder } from "../../api/client";
import { PPQ } from "../../api/gen/view.gen";
import { useSummary } from "../../api/queries";
import { Dialog } from "../Dialog";
import { NumberBox } from "../../controls/NumberBox";
import { sourceOf, useOrder } from "../../order/state";
import { clipOf, useApp } from "../../state/store";
import { OrderPanel } from "./OrderPanel";
import { Format, usual } from "./Format";
import { Holds, Out } from "./Holds";
import { KindOf, SoundPanel } from "./SoundPanel";
import { Segments } from "../../controls/Segments";
import css from "./ExportPanel.module.css";

/** Renders the clip, or the running order where that is open. */
export function ExportPanel() {
  return useOrder.getState().open ? <OrderPanel /> : <ClipPanel />;
}

/** Renders the clip to a file: what goes in, what it will hold, and out. */
function ClipPanel() {
  const download = useRef<HTMLAnchorElement>(null);
  const clip = useApp(clipOf)!;
  const view = useApp((s) => s.view)!;
  const words = useApp((s) => s.words)!;
  const id = useApp((s) => s.id);
  const [lanes, setLanes] = useState(() => clip.lanes.filter((_, i) => view.lanes[i]?.audible).map((l) => l.id));
  const [length, setLength] = useState(view.tooLong ? "bars" : clip.bars ? "bars" : clip.until);
  const [bars, setBars] = useState(clip.bars || Math.max(1, Math.round(view.ticks / view.barTicks)));
  const [format, setFormat] = useState(usual);
  const [kind, setKind] = useState("midi");
  const make = useRef(() => {});
  const order: FileOrder = {
    clip: clip.id,
    lanes,
    bars: length === "bars" ? bars : undefined,
    until: length === "bars" ? undefined : length,
    ppq: Number(format.ppq),
    type: Number(format.type),
    names: format.names,
  };
  const version = useApp((s) => s.version);
  const { data: summary, error } = useSummary(id, version, order);
  const url = new URL(api.fileUrl(id, order), window.location.href).href;
  const ready = summary !== undefined && lanes.length > 0;
  const tempo = useApp((s) => s.piece?.tempo ?? 120);
  const ticks = Math.round((summary?.seconds ?? 0) * (tempo / 60) * PPQ);
  const mute = clip.lanes.map((l) => l.id).filter((l) => !lanes.includes(l));
  const entry = { clip: clip.id, at: 0, for: Math.max(ticks, 1), mute, run: "on" };
  return (
    <Dialog
      title={kind === "midi" ? "Render to a MIDI file" : "Render to a sound file"}
      size={640}
      onClose={() => useApp.getState().set({ panel: null })}
      main={() => (kind === "midi" ? download.current?.click() : make.current())}
      ready={kind === "sound" || ready}
    >
      <div className={css.panel}>
        <KindOf value={kind} onChange={setKind} />
        <div className={css.row}>
          <span>Lanes</span>
          <div className={css.lanes}>
            {clip.lanes.map((l) => (
              <Checkbox
                key={l.id}
                size="xs"
                label={l.name}
                checked={lanes.includes(l.id)}
                onChange={(e) => setLanes(e.currentTarget.checked ? [...lanes, l.id] : lanes.filter((x) => x !== l.id))}
              />
            ))}
          </div>
        </div>
        <div className={css.row}>
          <span>Length</span>
          <div className={css.inline}>
            <Segments
              label="How long the file is"
              value={length}
              onChange={setLength}
              all={{ bars: "Bars", cycle: "One cycle", realign: "Until it meets the bar" }}
            />
            {length === "bars" && (
              <NumberBox label="Bars to render" value={bars} low={1} high={words.maxBars} onChange={setBars} />
            )}
          </div>
        </div>
        {kind === "midi" ? (
          <>
            <Format value={format} onChange={setFormat} chords={!!view.harmony} />
            <div className={css.summary} aria-live="polite" data-testid="summary">
              {error && <p className={css.trouble}>{error.message}</p>}
              {lanes.length === 0 && <p className={css.trouble}>No lane is chosen, so the file would be empty.</p>}
              {ready && <Holds summary={summary} />}
            </div>
            <Out download={download} url={url} summary={ready ? summary : undefined} />
          </>
        ) : (
          <SoundPanel
            source={(beat) => sourceOf([entry], 0, ticks, beat)}
            name={clip.name}
            trouble={
              lanes.length === 0
                ? "No lane is chosen, so the file would be silent."
                : (error?.message ?? (ticks > 0 ? "" : "How long it is is not known yet."))
            }
            nameOf={(lane) => clip.lanes.find((l) => `${clip.id}/${l.id}` === lane)?.name ?? lane}
            main={(run) => {
              make.current = run;
            }}
          />
        )}
      </div>
    </Dialog>
  );
}
