import { useState } from "react";
import { useFits } from "../../api/queries";
import { Dialog } from "../Dialog";
import { Choice } from "../../controls/Choice";
import { clipOf, useApp } from "../../state/store";
import { copied, put, type Copied } from "./state";
import { sounds } from "../../lanes/kinds";
import css from "./starters.module.css";

const told: Readonly<Record<string, string>> = {
  "rhythm.lane": "takes its rhythm from",
  "follows.lane": "follows the pitch of",
  of: "plays the notes of",
  to: "acts on",
};
/** What a lane can do without. */
const optional = ["rhythm.lane", "follows.lane"];

const close = () => useApp.getState().set({ panel: null });

/** Says what a copied lane needs that this clip has not, and asks what takes its place. */
export function Paste() {
  const own = copied();
  return own && <Asking own={own} />;
}

function Asking({ own }: { own: Copied }) {
  const { id, version, clip } = useApp();
  const lanes = useApp(clipOf)?.lanes.filter(sounds) ?? [];
  const { data, error } = useFits(id, version, clip, own.document);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const missing = (data?.needs ?? []).filter((n) => !n.there);
  const needs = Object.fromEntries(
    missing.map((n) => [n.field, chosen[n.field] ?? (optional.includes(n.field) ? "" : (lanes[0]?.id ?? ""))]),
  );
  const possible = missing.every((n) => optional.includes(n.field) || lanes.length > 0);
  return (
    <Dialog
      title={`Paste ${own.name}`}
      size={460}
      onClose={close}
      main={() => put(own, needs).then((done) => done && close())}
      label="Paste it"
      ready={data !== undefined && possible}
    >
      {error && <p role="alert">{error.message}</p>}
      {data?.chords && <p>{own.name} listens to chords, and this clip has none: it keeps to the scale until it has.</p>}
      {missing.length > 0 && <p>It needs what this clip has not:</p>}
      <div className={css.fields}>
        {missing.map((n) => (
          <Need key={n.field} field={n.field} lane={n.lane}>
            <Choice
              label={`It ${told[n.field]}`}
              value={needs[n.field]!}
              all={[...(optional.includes(n.field) ? [""] : []), ...lanes.map((l) => l.id)]}
              words={{ "": "none", ...Object.fromEntries(lanes.map((l) => [l.id, l.name])) }}
              onChange={(to) => setChosen({ ...chosen, [n.field]: to })}
            />
          </Need>
        ))}
      </div>
      {!possible && <p>There is no lane here that could take its place; add one first.</p>}
    </Dialog>
  );
}

function Need({ field, lane, children }: { field: string; lane: string; children: React.ReactNode }) {
  return (
    <>
      <span>
        It {told[field]} “{lane}”. In its place:
      </span>
      {children}
    </>
  );
}
