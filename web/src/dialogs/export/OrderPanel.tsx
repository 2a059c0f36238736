import { Checkbox, SegmentedControl } from "@mantine/core";
import { useRef, useState } from "react";
import { api } from "../../api/client";
import { useOrderSummary } from "../../api/queries";
import { useOrder } from "../../order/state";
import { useApp } from "../../state/store";
import { Dialog } from "../Dialog";
import { Holds, Out } from "./Holds";
import css from "./ExportPanel.module.css";

/** Renders the whole piece as its running order has it. */
export function OrderPanel() {
  const download = useRef<HTMLAnchorElement>(null);
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const words = useApp((s) => s.words)!;
  const loop = useOrder((s) => s.loop);
  const [ppq, setPpq] = useState("960");
  const [type, setType] = useState("1");
  const [names, setNames] = useState(true);
  const [part, setPart] = useState("all");
  const query = new URLSearchParams({
    ppq,
    type,
    names: names ? "yes" : "no",
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
        <div className={css.row}>
          <span>Resolution</span>
          <div className={css.inline}>
            <SegmentedControl size="xs" value={ppq} onChange={setPpq} data={words.ppqs.map(String)} />
            <span className="quiet">ticks a quarter</span>
            <SegmentedControl
              size="xs"
              value={type}
              onChange={setType}
              data={[
                { value: "1", label: "Type 1" },
                { value: "0", label: "Type 0" },
              ]}
            />
          </div>
        </div>
        <div className={css.row}>
          <span>Chords</span>
          <Checkbox
            size="xs"
            label="Write their names in, as markers where they begin"
            checked={names}
            onChange={(e) => setNames(e.currentTarget.checked)}
          />
        </div>
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
