import { useLayoutEffect, useRef } from "react";
import type { TrackOffers, TrackReport } from "../../api/gen/files.gen";
import type { FileDrawing, TakeTrack } from "../../api/gen/server.gen";
import { tryOutNotes } from "../../state/player";
import { Choice } from "../../controls/Choice";
import { many } from "../../words";
import { useApp } from "../../state/store";
import { token } from "../../theme";
import css from "./intake.module.css";
import { useLight } from "../../light";

export type TrackChoice = TakeTrack;

/** What a choice is called, with what would differ where that is known. */
const wordsOf = (as: string, offers: TrackOffers | undefined): string => {
  const offer = offers?.offers.find((o) => o.as === as);
  const name = as === "" ? "stays out" : as === "auto" ? "what fits best" : as;
  if (!offer) return name;
  if (offer.why) return `${name}: does not fit`;
  const { notes, of, ms } = offer.differs;
  return notes ? `${name}: ${notes} of ${of} move, by up to ${ms} ms` : `${name}: nothing moves`;
};

interface Props {
  track: TrackReport;
  /** What it becomes by what is chosen now; undefined: that is not known yet. */
  told: TrackReport | undefined;
  drawn: FileDrawing;
  becomings: readonly string[];
  /** What would differ as each; undefined: that is not known, or not yet. */
  offers: TrackOffers | undefined;
  choice: TrackChoice;
  onChange: (choice: TrackChoice) => void;
}

/** One track of a file: drawn, heard, and what it becomes. */
export function TrackRow({ track, told, drawn, becomings, offers, choice, onChange }: Props) {
  const left = [
    [track.left.wheel, "wheel position"],
    [track.left.controls, "controller value"],
    [track.left.pressures, "pressure"],
    [track.left.programs, "program change"],
  ] as const;
  const first = offers?.first ?? "";
  const all = ["", ...(first ? [first] : []), ...becomings.filter((as) => as !== first)];
  const heard = useApp((s) => s.view !== null);
  const differs = told && choice.as ? told.differs : undefined;
  return (
    <section className={css.track} data-out={!choice.as} aria-label={drawn.lane}>
      <div>
        <b>{drawn.lane}</b>
        {heard && (
          <button
            type="button"
            aria-label={`Hear ${drawn.lane}`}
            title="Hear it over the clip"
            onClick={() => tryOutNotes(drawn)}
          >
            Hear
          </button>
        )}
        <p className="quiet">
          channel {track.channels.join(", ")} · {many(track.notes, "note")} · {drawn.names[0]} to {drawn.names[1]} ·{" "}
          {track.voices === 1 ? "one voice" : `${track.voices} at once`}
          {track.grid ? ` · ${Math.round(track.grid.share * 100)} % on ${track.grid.rate}` : " · on no grid"}
        </p>
      </div>
      <Drawing drawn={drawn} />
      <div className={css.choice}>
        <Choice
          label={`What ${drawn.lane} becomes`}
          value={choice.as}
          all={all}
          words={Object.fromEntries(all.map((as) => [as, wordsOf(as, offers)]))}
          onChange={(as) => onChange({ ...choice, as })}
        />
        <Choice
          label={`Which notes of ${drawn.lane}`}
          value={choice.only ?? ""}
          all={["", "lowest", "highest"]}
          words={{ "": "all notes", lowest: "only the lowest", highest: "only the highest" }}
          onChange={(only) => onChange({ ...choice, only })}
        />
        <p className="quiet" data-testid={`differs-${track.track}`}>
          {!choice.as
            ? "Nothing of it comes in."
            : told?.why
              ? `It does not fit: ${told.why}.`
              : differs?.notes
                ? `${differs.notes} of ${many(differs.of, "note")} move by up to ${differs.ms} ms.`
                : told && `Becomes ${told.becomes}: no note moves.`}
        </p>
        {choice.as && left.some(([n]) => n > 0) && (
          <p className="quiet">
            Beside its notes: {left.flatMap(([n, what]) => (n ? [many(n, what)] : [])).join(", ")}.
          </p>
        )}
      </div>
    </section>
  );
}

const SIZE = { width: 300, height: 54 };

/** A track's notes, small. */
function Drawing({ drawn }: { drawn: FileDrawing }) {
  const light = useLight();
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = SIZE.width * ratio;
    el.height = SIZE.height * ratio;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    pen.clearRect(0, 0, SIZE.width, SIZE.height);
    const pitches = drawn.notes.map((n) => n.pitch);
    const low = Math.min(...pitches);
    const rows = Math.max(Math.max(...pitches) - low, 1);
    pen.fillStyle = token("ink");
    for (const n of drawn.notes) {
      const y = SIZE.height - 5 - ((n.pitch - low) / rows) * (SIZE.height - 10);
      const x = (n.at / drawn.ticks) * SIZE.width;
      pen.fillRect(x, y - 1, Math.max((n.length / drawn.ticks) * SIZE.width - 0.5, 1), 2);
    }
  }, [drawn, light]);
  return <canvas ref={canvas} style={SIZE} className={css.drawing} aria-hidden />;
}
