import { SegmentedControl } from "@mantine/core";
import { useRef, useState } from "react";
import { api } from "../../api/client";
import { useOrderSummary } from "../../api/queries";
import { useOrder } from "../../order/state";
import { useApp } from "../../state/store";
import { Dialog } from "../Dialog";
import { Format, usual } from "./Format";
import { Holds, Out } from "./Holds";
import css from "./ExportPanel.module.css";

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
  return (
    <Dialog
      title="Render the running order"
      size={720}
      onClose={() => useApp.getState().set({ panel: null })}
      main={() => download.current?.click()}
      ready={ready}
    >
      <div className={css.panel}>
        {loop && (
          <div className={css.row}>
            <span>What</span>
            <SegmentedControl
              size="xs"
              value={part}
              onChange={setPart}
              data={[
                { value: "all", label: "The whole piece" },
                { value: "loop", label: "The stretch that is looped" },
              ]}
            />
          </div>
        )}
        <Format value={format} onChange={setFormat} chords />
        <div className={css.summary} aria-live="polite" data-testid="summary">
          {error && <p className={css.trouble}>{error.message}</p>}
          {isFetching && !summary && <progress aria-label="Rendering the piece" />}
          {ready && <Holds summary={summary} />}
        </div>
        <Out download={download} url={url} summary={ready ? summary : undefined} />
      </div>
    </Dialog>
  );
}
