import { many } from "../../words";
import { Button } from "@mantine/core";
import { useRef, useState } from "react";
import { api } from "../../api/client";
import type { StarterOffer } from "../../api/gen/server.gen";
import { queries, useStarters } from "../../api/queries";
import { Deleted } from "../../controls/Deleted";
import { Dialog } from "../Dialog";
import { moved } from "../../controls/roving";
import { usePointing, type Pointing } from "../../state/pointing";
import { Segments } from "../../controls/Segments";
import { FilePick } from "../../controls/FilePick";
import { TabList } from "../../controls/TabList";
import { defaultKind } from "../../api/default";
import { laneKinds } from "../../lanes/kinds";
import { makeLanes } from "../../state/actions";
import type { Op } from "../../api/gen/schema.gen";
import { laneOf, message, stepsOf, useApp } from "../../state/store";
import { keptOf } from "../../state/tried";
import css from "./starters.module.css";

/** What can be taken of a starter into a lane that stands. */
const parts = { "": "All", rhythm: "Rhythm", pitches: "Pitches", sound: "Sound" } as const;
type Part = keyof typeof parts;

const close = () => useApp.getState().set({ panel: null });

/** Chooses a starter: each drawn in the clip's key, and heard in the place of the lane that it would take, or beside the
 * lanes that stand, before it is kept. */
export function Chooser() {
  const pointing = usePointing();
  return (
    <Dialog
      title="Begin from a starter"
      size={760}
      onClose={close}
      main={() => pointing.keep().then((kept) => kept && close())}
      label={pointing.name ? `Keep ${pointing.name}` : "Keep it"}
      ready={pointing.name !== "" && !pointing.problem}
    >
      <Offers pointing={pointing} />
    </Dialog>
  );
}

function Offers({ pointing }: { pointing: Pointing }) {
  const { id, version, clip } = useApp();
  const lane = useApp((s) => laneOf(keptOf(s)));
  const [kind, setKind] = useState<string>(lane?.kind ?? defaultKind);
  const [inPlace, setInPlace] = useState(() => !!lane && stepsOf(lane).some((s) => s.on));
  const [part, setPart] = useState<Part>("");
  const [withSound, setWithSound] = useState(false);
  const { data, error, refetch } = useStarters(id, version, clip, kind);
  const [problem, setProblem] = useState("");
  const [deleted, setDeleted] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const fits = lane?.kind === kind;
  const into = fits && inPlace ? lane.id : null;
  const ops = (offer: StarterOffer, lane: string | null, of: Part, sound: boolean): Op[] => [
    lane === null
      ? { op: "lane.start", clip, starter: offer.document, first: true }
      : { op: "lane.start", clip, lane, starter: offer.document, part: of, sound },
  ];
  const point = (offer: StarterOffer, way = { into, part, withSound }) => {
    if (offer.lane !== null) pointing.point(offer.name, ops(offer, way.into, way.part, way.withSound));
  };
  /** What is pointed at is tried in another way. */
  const change = (way: { into: string | null; part: Part; withSound: boolean }) => {
    setInPlace(way.into !== null);
    setPart(way.part);
    setWithSound(way.withSound);
    const at = data?.find((offer) => offer.name === pointing.name);
    if (at) point(at, way);
  };
  const take = async (made: Promise<boolean>) => {
    if (await made) close();
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
  const go = (e: React.KeyboardEvent) => {
    const offers = (data ?? []).filter((offer) => offer.lane !== null);
    const to = moved(
      e.key,
      offers.findIndex((offer) => offer.name === pointing.name),
      offers.length,
      2,
    );
    const offer = to === null ? undefined : offers[to];
    if (!offer) return;
    e.preventDefault();
    point(offer);
    const card = [...(list.current?.children ?? [])].find((el) => el.getAttribute("aria-label") === offer.name);
    card?.querySelector("button")?.focus({ preventScroll: true });
    card?.scrollIntoView({ block: "nearest" });
  };
  return (
    <>
      <TabList
        label="Kinds of starters"
        className={css.kinds}
        value={kind}
        onChange={(next) => {
          setKind(next);
          pointing.leave();
        }}
        items={Object.entries(laneKinds).map(([name, k]) => ({ value: name, label: k.title }))}
      />
      <div className={css.ways}>
        {fits && (
          <>
            <Segments
              label="Where it is tried"
              value={inPlace ? "into" : "new"}
              all={{ new: "As a new lane", into: `In place of ${lane.name}` }}
              onChange={(to) => change({ into: to === "into" ? lane.id : null, part, withSound })}
            />
            {inPlace && (
              <Segments
                label="What is taken"
                value={part}
                all={parts}
                onChange={(to) => change({ into, part: to as Part, withSound })}
              />
            )}
            {inPlace && part !== "sound" && (
              <label className={css.sound}>
                <input
                  type="checkbox"
                  checked={withSound}
                  onChange={(e) => change({ into, part, withSound: e.currentTarget.checked })}
                />
                its sound, too
              </label>
            )}
          </>
        )}
        <FilePick
          label="Import a starter"
          accept=".json,application/json"
          className="quiet"
          onFile={(file) => void attempt(async () => api.saveStarter(await file.text(), false))}
        >
          Import a starter
        </FilePick>
      </div>
      {(pointing.problem || problem || error) && <p role="alert">{pointing.problem || problem || error?.message}</p>}
      {data?.length === 0 && (
        <p className="quiet">
          None yet. Save a {laneKinds[kind as keyof typeof laneKinds].title.toLowerCase()} lane as a starter: its menu
          “More”.
        </p>
      )}
      {/* oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the arrows go from card to card, whose buttons have the focus */}
      <div ref={list} className={css.list} onKeyDown={go}>
        {data?.map((offer) => (
          <div
            key={offer.name}
            className={css.card}
            data-heard={pointing.name === offer.name}
            role="group"
            aria-label={offer.name}
          >
            <h3>
              {offer.name}
              <span className="quiet">{offer.own ? "your own" : offer.about}</span>
            </h3>
            <Drawing offer={offer} />
            {offer.lane === null && <p>It needs lanes that this clip has not.</p>}
            {offer.silent && <p>{offer.silent}</p>}
            <div className={css.foot}>
              <Button
                size="compact-xs"
                variant="default"
                disabled={offer.lane === null}
                aria-pressed={pointing.name === offer.name}
                aria-label={`Try ${offer.name}`}
                onClick={() => (pointing.name === offer.name ? pointing.leave() : point(offer))}
              >
                Try
              </Button>
              <Button
                size="compact-xs"
                variant="default"
                disabled={offer.lane === null}
                onClick={() => void take(makeLanes(ops(offer, null, "", false)))}
                aria-label={`Add ${offer.name}`}
              >
                Add
              </Button>
              {fits && (
                <Button
                  size="compact-xs"
                  variant="default"
                  disabled={offer.lane === null}
                  onClick={() => void take(useApp.getState().edit(ops(offer, lane.id, part, withSound)))}
                  title={`${lane.name} begins anew from it, and keeps its sound`}
                  aria-label={`Put ${offer.name} into ${lane.name}`}
                >
                  Into {lane.name}
                </Button>
              )}
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
