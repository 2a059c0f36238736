import { useBoard } from "../../api/queries";
import { PointList } from "../../controls/PointList";
import { Popup } from "../../controls/Popup";
import { useApp } from "../../state/store";
import type { ChordsLane } from "./chords";
import css from "./chords.module.css";

/** Progressions to begin from, in the clip's key. */
export function Bank({ lane }: { lane: ChordsLane }) {
  return (
    <Popup
      button={
        <button className={css.go} aria-label={`Progressions for ${lane.name}`}>
          Progressions ▾
        </button>
      }
      position="bottom-end"
      width={330}
      trapFocus
    >
      {(close) => <Rows lane={lane} leave={close} />}
    </Popup>
  );
}

function Rows({ lane, leave }: { lane: ChordsLane; leave: () => void }) {
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const clip = useApp((s) => s.clip);
  const { data: board } = useBoard(id, version, clip, lane.id, 1);
  if (!board) return <div className="quiet">Working them out</div>;
  if (!board.bank.length)
    return <div className="quiet">Progressions are written for scales of seven notes; this one has others.</div>;
  return (
    <PointList
      label="Progressions"
      items={board.bank.map((row) => ({
        name: row.name,
        label: row.name,
        detail: row.shown,
        edit: [{ op: "chords.write", clip, lane: lane.id, text: row.text }],
      }))}
      onKept={leave}
    />
  );
}
