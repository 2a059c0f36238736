import { many } from "../../words";
import { Button } from "@mantine/core";
import { useEffect, useState } from "react";
import { api } from "../../api/client";
import type { StarterOffer } from "../../api/gen/server.gen";
import { queries, useStarters } from "../../api/queries";
import { tryOut } from "../../state/player";
import { Deleted } from "../../controls/Deleted";
import { Dialog } from "../Dialog";
import { FilePick } from "../../controls/FilePick";
import { TabList } from "../../controls/TabList";
import { defaultKind } from "../../api/default";
import { laneKinds } from "../../lanes/kinds";
import { makeLanes } from "../../state/actions";
import type { Lane } from "../../api/gen/schema.gen";
import { laneOf, message, useApp } from "../../state/store";
import css from "./starters.module.css";

/** Chooses a starter for a new lane: each drawn in the clip's key, and heard over the loop
 * before it is taken. */
export function Chooser() {
  const close = () => useApp.getState().set({ panel: null });
  useEffect(() => () => tryOut(null), []);
  return (
    <Dialog title="Begin from a starter" size={720} onClose={close}>
      <Offers close={close} />
    </Dialog>
  );
}

function Offers({ close }: { close: () => void }) {
  const { id, version, clip } = useApp();
  const lane = useApp(laneOf);
  const [kind, setKind] = useState<string>(lane?.kind ?? defaultKind);
  const [heard, setHeard] = useState("");
  const { data, error, refetch } = useStarters(id, version, clip, kind);
  const [problem, setProblem] = useState("");
  const [deleted, setDeleted] = useState(false);
  const hear = (offer: StarterOffer) => {
    const next = heard === offer.name ? "" : offer.name;
    setHeard(next);
    tryOut(next ? offer : null);
  };
  const take = async (offer: StarterOffer) => {
    if (await makeLanes([{ op: "lane.start", clip, starter: offer.document, first: true }])) close();
  };
  const replace = async (offer: StarterOffer, into: Lane) => {
    if (await useApp.getState().edit([{ op: "lane.start", clip, lane: into.id, starter: offer.document }])) close();
  };
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
      setProblem("");
      const known = ["starter", "deleted"].map((of) => queries.invalidateQueries({ queryKey: [of] }));
      await Promise.all([refetch(), ...known]);
    } catch (e) {
      setProblem(message(e));
    }
  };
  return (
    <>
      <TabList
        label="Kinds of starters"
        className={css.kinds}
        value={kind}
        onChange={(next) => {
          setKind(next);
          setHeard("");
          tryOut(null);
        }}
        items={Object.entries(laneKinds).map(([name, k]) => ({ value: name, label: k.title }))}
      />
      <div className={css.import}>
        <FilePick
          label="Import a starter"
          accept=".json,application/json"
          className="quiet"
          onFile={(file) => void attempt(async () => api.saveStarter(await file.text(), false))}
        >
          Import a starter
        </FilePick>
      </div>
      {(problem || error) && <p role="alert">{problem || error?.message}</p>}
      {data?.length === 0 && (
        <p className="quiet">
          None yet. Save a {laneKinds[kind as keyof typeof laneKinds].title.toLowerCase()} lane as a starter: its menu
          “More”.
        </p>
      )}
      <div className={css.list}>
        {data?.map((offer) => (
          <div
            key={offer.name}
            className={css.card}
            data-heard={heard === offer.name}
            role="group"
            aria-label={offer.name}
          >
            <h4>
              {offer.name}
              <span className="quiet">{offer.own ? "your own" : offer.about}</span>
            </h4>
            <Drawing offer={offer} />
            {offer.lane === null && <p>It needs lanes that this clip has not.</p>}
            {offer.silent && <p>{offer.silent}</p>}
            <div className={css.foot}>
              <Button
                size="compact-xs"
                disabled={offer.lane === null}
                onClick={() => void take(offer)}
                aria-label={`Add ${offer.name}`}
              >
                Add
              </Button>
              {lane?.kind === offer.kind && (
                <Button
                  size="compact-xs"
                  variant="default"
                  disabled={offer.lane === null}
                  onClick={() => void replace(offer, lane)}
                  title={`${lane.name} begins anew from it`}
                  aria-label={`Put ${offer.name} into ${lane.name}`}
                >
                  Into {lane.name}
                </Button>
              )}
              <Button
                size="compact-xs"
                variant="default"
                disabled={!offer.notes.length}
                aria-pressed={heard === offer.name}
                aria-label={`Hear ${offer.name}`}
                onClick={() => hear(offer)}
              >
                {heard === offer.name ? "Stop" : "Hear"}
              </Button>
              <Button
                size="compact-xs"
                variant="subtle"
                color="dark"
                component="a"
                download={`${offer.name}.json`}
                href={`data:application/json,${encodeURIComponent(JSON.stringify(offer.document, null, 2))}`}
                aria-label={`Export ${offer.name}`}
              >
                Export
              </Button>
              {offer.own && (
                <Button
                  size="compact-xs"
                  variant="subtle"
                  color="dark"
                  aria-label={`Delete ${offer.name}`}
                  onClick={() =>
                    void attempt(async () => {
                      await api.removeStarter(offer.name);
                      setDeleted(true);
                    })
                  }
                >
                  Delete
                </Button>
              )}
            </div>
          </div>
        ))}
      </div>
      <Deleted what="starters" fresh={deleted} attempt={attempt} onBack={refetch} />
    </>
  );
}

/** The notes of a starter, as they would fall in the clip. */
function Drawing({ offer }: { offer: StarterOffer }) {
  const pitches = offer.notes.map((n) => n.pitch);
  const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
  const y = (pitch: number) => 39 - ((pitch - low) / Math.max(high - low, 6)) * 32;
  const x = (tick: number) => (tick / Math.max(offer.ticks, 1)) * 320;
  return (
    <svg viewBox="0 0 320 46" preserveAspectRatio="none" role="img" aria-label={many(offer.notes.length, "note")}>
      {offer.notes.map((n, i) => (
        <rect
          key={i}
          x={x(n.at)}
          y={y(n.pitch)}
          width={Math.max(x(n.length) - 0.5, 1.5)}
          height={3}
          fill="var(--ink)"
          opacity={0.35 + (n.velocity / 127) * 0.6}
        />
      ))}
    </svg>
  );
}
