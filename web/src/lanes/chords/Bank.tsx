import { useBoard } from "../../api/queries";
import { Popup } from "../../controls/Popup";
import { moved } from "../../controls/roving";
import { usePointing } from "../../state/pointing";
import type { Op } from "../../api/gen/schema.gen";
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
      className={css.bank}
    >
      {(close) => <Rows lane={lane} leave={close} />}
    </Popup>
  );
}

function Rows({ lane, leave }: { lane: ChordsLane; leave: () => void }) {
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const clip = useApp((s) => s.clip);
  const pointing = usePointing(false);
  const { data: board } = useBoard(id, version, clip, lane.id, 1);
  if (!board) return <div className="quiet">Working them out</div>;
  if (!board.bank.length)
    return <div className="quiet">Progressions are written for scales of seven notes; this one has others.</div>;
  const write = (text: string): Op[] => [{ op: "chords.write", clip, lane: lane.id, text }];
  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the arrows go from button to button
    <div
      className={css.rows}
      onKeyDown={(e) => {
        const all = [...e.currentTarget.querySelectorAll("button")];
        const to = moved(e.key, all.indexOf(document.activeElement as HTMLButtonElement), all.length);
        if (to === null) return;
        e.preventDefault();
        all[to]!.focus();
      }}
      onPointerLeave={pointing.leave}
    >
      {board.bank.map((row) => (
        <button
          key={row.name}
          data-heard={pointing.name === row.name}
          onPointerEnter={() => pointing.point(row.name, write(row.text))}
          onFocus={(e) => e.currentTarget.matches(":focus-visible") && pointing.point(row.name, write(row.text))}
          onClick={() => void useApp.getState().edit(write(row.text)).then(leave)}
        >
          <span>{row.name}</span>
          <span className="mono">{row.shown}</span>
        </button>
      ))}
    </div>
  );
}
