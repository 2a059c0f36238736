import { after } from "../../underway";
import { useEffect, useMemo, useState } from "react";
import { api } from "../../api/client";
import type { TrackOffers } from "../../api/gen/files.gen";
import type { FileReport, TakeRequest } from "../../api/gen/server.gen";
import { tryOutNotes } from "../../state/player";
import { Choice } from "../../controls/Choice";
import { many } from "../../words";
import { message, useApp } from "../../state/store";
import { Dialog } from "../Dialog";
import { TrackRow, type TrackChoice } from "./TrackRow";
import css from "./intake.module.css";
import { useIntake } from "./state";

/** What is to be done with a file of our own. */
const ways = {
  whole: "with what changed in the file",
  asWas: "as they were when it was rendered",
  plain: "plainly, as notes",
};
type Way = keyof typeof ways;

/** What is in a MIDI file, and what is to become of it. */
export function Intake() {
  const file = useIntake((s) => s.file);
  const open = useApp((s) => s.id !== "");
  const [to, setTo] = useState(open ? "clip" : "piece");
  const [way, setWay] = useState<Way>("whole");
  const [key, setKey] = useState("");
  const [controls, setControls] = useState(false);
  const [feel, setFeel] = useState(false);
  const [tracks, setTracks] = useState<TrackChoice[]>([]);
  const [report, setReport] = useState<FileReport | null>(null);
  const [now, setNow] = useState<FileReport | null>(null);
  const [offers, setOffers] = useState<readonly TrackOffers[]>([]);
  const [problem, setProblem] = useState("");
  const close = () => {
    useApp.getState().set({ panel: null });
    useIntake.setState({ file: null });
  };
  const own = !!report?.report.own && way !== "plain";
  const ask = useMemo(
    (): TakeRequest => ({
      name: file?.name ?? "",
      ...(to === "lanes" ? { to } : {}),
      ...(key && to !== "lanes" ? { key } : {}),
      ...(controls ? { controls } : {}),
      ...(feel && !own ? { feel } : {}),
      ...(own ? { asWas: way === "asWas" } : { plain: true, tracks: tracks.filter((t) => t.as) }),
    }),
    [file, to, key, controls, feel, own, way, tracks],
  );
  // What is in it is asked once; what would differ whenever something else is chosen.
  useEffect(() => {
    if (!file) return;
    let gone = false;
    api.report(file, { name: file.name }).then(
      (first) => {
        if (gone) return;
        setReport(first);
        setKey(first.report.keys[0]?.key ?? "");
        setTracks(first.report.tracks.map((t) => ({ track: t.track, as: "auto", only: "" })));
      },
      (e: unknown) => gone || setProblem(message(e)),
    );
    // What each would differ comes after that; where it takes too long to work out, it is not told.
    api.report(file, { name: file.name, plain: true, each: true }).then(
      ({ offers }) => {
        if (gone) return;
        setOffers(offers);
        const first = (track: number) => offers.find((o) => o.track === track)?.first ?? "auto";
        setTracks((all) => all.map((t) => (t.as === "auto" ? { ...t, as: first(t.track) } : t)));
      },
      () => undefined,
    );
    return () => {
      gone = true;
      tryOutNotes(null);
    };
  }, [file]);
  useEffect(() => {
    if (!file || !report || own || !ask.tracks?.length) return;
    let gone = false;
    const stop = after(120, () => {
      api.report(file, ask).then(
        (next) => gone || setNow(next),
        (e: unknown) => gone || setProblem(message(e)),
      );
    });
    return () => {
      gone = true;
      stop();
    };
  }, [file, report, own, ask]);
  if (!file) return null;
  const r = report?.report;
  const take = async () => {
    const state = useApp.getState();
    if (to === "piece") state.take(await api.takeNew(file, ask));
    else if (!(await state.bring(file, ask))) return;
    close();
  };
  const told = (now ?? report)?.report;
  const ready = !!r && (own || tracks.some((t) => t.as));
  return (
    <Dialog
      title={`Bring in ${file.name}`}
      size={860}
      onClose={close}
      main={take}
      label={to === "piece" ? "Make a piece of it" : to === "lanes" ? "Add its lanes" : "Add it as a clip"}
      ready={ready}
    >
      {problem && (
        <p role="alert" className={css.problem}>
          {problem}
        </p>
      )}
      {!report && !problem && <p className="quiet">Reading the file</p>}
      {report && r && (
        <>
          <p className={css.facts}>
            <span className="mono">{Math.round(r.tempo * 100) / 100} bpm</span>
            {r.tempoChanges ? `, ${many(r.tempoChanges, "change")} of tempo left out` : ""} ·{" "}
            <span className="mono">{r.meter}</span>
            {r.meterChanges ? `, ${many(r.meterChanges, "change")} of meter left out` : ""} · {many(r.bars, "bar")}
            {r.ppq == null ? " · timed by frames" : ""}
          </p>
          {(r.why || r.remarks?.length) && (
            <p className={css.facts}>
              {[r.why && `${r.why}; it comes in plainly.`, ...(r.remarks ?? [])].filter(Boolean).join(" ")}
            </p>
          )}
          <div className={css.row}>
            <label htmlFor="intake-to">It becomes</label>
            <Choice
              id="intake-to"
              label="What it becomes"
              value={to}
              all={open ? ["clip", "lanes", "piece"] : ["piece"]}
              words={{ clip: "a clip of this piece", lanes: "lanes of this clip", piece: "a new piece" }}
              onChange={setTo}
            />
            {r.own && (
              <>
                <label htmlFor="intake-way">
                  It was rendered here{r.changed ? `, and ${many(r.changed, "note")} changed since` : ""}: its lanes
                </label>
                <Choice
                  id="intake-way"
                  label="How its lanes come back"
                  value={way}
                  all={r.changed ? ["whole", "asWas", "plain"] : ["whole", "plain"]}
                  words={r.changed ? ways : { ...ways, whole: "whole, every field" }}
                  onChange={(next) => setWay(next as Way)}
                />
              </>
            )}
            {!own && to !== "lanes" && (
              <>
                <label htmlFor="intake-key">Key</label>
                <Choice
                  id="intake-key"
                  label="Key of the file"
                  value={key || (r.keys[0]?.key ?? "")}
                  all={r.keys.map((k) => k.key)}
                  words={Object.fromEntries(
                    r.keys.map((k, i) => [k.key, `${report.keyNames[i]} – holds ${Math.round(k.share * 100)} %`]),
                  )}
                  onChange={setKey}
                />
              </>
            )}
            {!own && (
              <>
                <label>
                  <input type="checkbox" checked={controls} onChange={(e) => setControls(e.target.checked)} /> wheel and
                  controllers, too
                </label>
                {r.ppq != null && (
                  <label title="How it is played becomes the piece's groove; what comes in keeps its own times">
                    <input type="checkbox" checked={feel} onChange={(e) => setFeel(e.target.checked)} /> its feel as the
                    groove
                  </label>
                )}
              </>
            )}
          </div>
          {!own && (
            <div className={css.tracks}>
              {r.tracks.map((t, i) => (
                <TrackRow
                  key={t.track}
                  track={t}
                  told={told?.tracks.find((o) => o.track === t.track)}
                  drawn={report.drawn[i]!}
                  becomings={report.becomings}
                  offers={offers.find((o) => o.track === t.track)}
                  choice={tracks[i] ?? { track: t.track, as: "auto", only: "" }}
                  onChange={(next) => setTracks(tracks.map((c) => (c.track === t.track ? next : c)))}
                />
              ))}
            </div>
          )}
        </>
      )}
    </Dialog>
  );
}
