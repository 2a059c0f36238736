import { useRef, useState } from "react";
import { api } from "../../api/client";
import { useOrderSummary } from "../../api/queries";
import { sent } from "../../order/live";
import { sourceOf, useOrder, written } from "../../order/state";
import { useApp } from "../../state/store";
import { Dialog } from "../Dialog";
import { Format, usual } from "./Format";
import { Holds, Out } from "./Holds";
import { KindOf, SoundPanel } from "./SoundPanel";
import { Segments } from "../../controls/Segments";
import css from "./ExportPanel.module.css";

/** What lanes of the order are called, by their ids: as their tracks in a file. */
const nameOf =
  ({ clips }: { clips: readonly { id: string; name: string }[] }) =>
  (lane: string): string => {
    const [clip, own] = lane.split("/");
    return `${clips.find((c) => c.id === clip)?.name ?? clip} - ${own}`;
  };

/** Renders the whole piece as its running order has it. */
export function OrderPanel() {
  const download = useRef<HTMLAnchorElement>(null);
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const loop = useOrder((s) => s.loop);
  const [format, setFormat] = useState(usual);
  const [part, setPart] = useState("all");
  const query = new URLSearchParams({
    ppq: format.ppq,
    type: format.type,
    names: format.names ? "yes" : "no",
    ...(loop && part === "loop" ? { from: String(loop.from), to: String(loop.to) } : {}),
  }).toString();
  const { data: summary, error, isFetching } = useOrderSummary(id, version, query);
  const url = new URL(api.orderUrl(id, query), window.location.href).href;
  const ready = summary !== undefined && !error;
  const [kind, setKind] = useState("midi");
  const make = useRef(() => {});
  const piece = useApp((s) => s.piece)!;
  const played = sent(written(), 0);
  const [from, to] =
    loop && part === "loop" ? [loop.from, loop.to] : [0, Math.max(0, ...played.map((e) => e.at + e.for))];
  return (
    <Dialog
      title={kind === "midi" ? "Render the running order" : "The running order as a sound file"}
      size={720}
      onClose={() => useApp.getState().set({ panel: null })}
      main={() => (kind === "midi" ? download.current?.click() : make.current())}
      ready={kind === "sound" || ready}
    >
      <div className={css.panel}>
        <KindOf value={kind} onChange={setKind} />
        {loop && (
          <div className={css.row}>
            <span>What</span>
            <Segments
              label="What of the order"
              value={part}
              onChange={setPart}
              all={{ all: "The whole piece", loop: "The stretch that is looped" }}
            />
          </div>
        )}
        {kind === "midi" ? (
          <>
            <Format value={format} onChange={setFormat} chords />
            <div className={css.summary} aria-live="polite" data-testid="summary">
              {error && <p className={css.trouble}>{error.message}</p>}
              {isFetching && !summary && <progress aria-label="Rendering the piece" />}
              {ready && <Holds summary={summary} />}
            </div>
            <Out download={download} url={url} summary={ready ? summary : undefined} />
          </>
        ) : (
          <SoundPanel
            source={(beat) => sourceOf(played, from, to, beat)}
            name={piece.title}
            trouble={played.length === 0 ? "The running order has no entries." : ""}
            nameOf={nameOf(piece)}
            main={(run) => {
              make.current = run;
            }}
          />
        )}
      </div>
    </Dialog>
  );
}
