import { many as so } from "../words";
import { useEffect, useMemo, useState } from "react";
import { useSemitones } from "../api/queries";
import { togglePlay, usePlaying } from "../state/player";
import { freeNotes } from "../api/free";
import { kindOf } from "../lanes/kinds";
import { laneOf, useApp } from "../state/store";
import { closeKeyboard, enterGathered, freeNow, press, release, rest, strike, tie } from "./actions";
import css from "./enter.module.css";
import { letters, liftAll, liftKey } from "./keys";
import { hasMidi } from "./midi";
import { listen } from "./access";
import { useEnter } from "./state";

/** The octave that the rungs of the keyboard count from. */
const MIDDLE = 4;
/** How many keys are shown: of the key, and of all semitones. */
const KEYS = { key: 15, all: 25 };

/** A keyboard of the key's notes, by which notes, rests, ties and chords are entered one
 * after another, step by step or in time with the loop. */
export function Keyboard() {
  const lane = useApp(laneOf);
  const piece = useApp((s) => s.id);
  const clip = useApp((s) => s.clip);
  const version = useApp((s) => s.version);
  const { write, inTime, countIn, all, together, gathered, octave, set } = useEnter();
  const semitones = useSemitones(piece, version, clip).data;
  const own = lane && "octave" in lane ? lane.octave : MIDDLE;

  const rungs = useMemo(() => {
    const shown = (semitones ?? []).filter((r) => all || r.inKey);
    const home = shown.findIndex((r) => r.tonic && r.octave === own - MIDDLE + octave);
    const most = all ? KEYS.all : KEYS.key;
    const first = Math.min(Math.max(home, 0), Math.max(shown.length - most, 0));
    return shown.slice(first, first + most);
  }, [semitones, all, own, octave]);
  useEffect(() => set({ row: rungs.slice(0, letters.length).map((r) => r.pitch) }), [rungs, set]);
  useEffect(() => {
    document.addEventListener("keyup", liftKey);
    window.addEventListener("blur", liftAll);
    return () => {
      document.removeEventListener("keyup", liftKey);
      window.removeEventListener("blur", liftAll);
      liftAll();
    };
  }, []);
  if (!lane) return null;
  const many = kindOf(lane).many;

  return (
    <section className={css.enter} aria-label="Keyboard">
      <div className={css.row}>
        <b className={css.title}>{write ? `Play into ${lane.name}` : `Play ${lane.name}`}</b>
        <label title="What is played is written into the lane">
          <input type="checkbox" checked={write} onChange={(e) => set({ write: e.target.checked, gathered: [] })} />{" "}
          Write
        </label>
        {write ? (
          <>
            <Next />
            <label>
              <input type="checkbox" checked={inTime} onChange={(e) => set({ inTime: e.target.checked })} /> In time
            </label>
            {inTime && <InTime countIn={countIn} />}
          </>
        ) : (
          <span className="quiet">heard, not written</span>
        )}
        <span className={css.grow} />
        <label>
          <input type="checkbox" checked={all} onChange={(e) => set({ all: e.target.checked })} /> All semitones
        </label>
        <button
          aria-label="Keyboard an octave down"
          disabled={own + octave <= 0}
          onClick={() => set({ octave: octave - 1 })}
        >
          −
        </button>
        <span className="mono">{rungs[0]?.name ?? ""} up</span>
        <button
          aria-label="Keyboard an octave up"
          disabled={own + octave >= 7}
          onClick={() => set({ octave: octave + 1 })}
        >
          +
        </button>
        <Midi />
        <button aria-label="Close the keyboard" onClick={closeKeyboard}>
          ×
        </button>
      </div>
      <div className={css.keys} data-all={all}>
        {rungs.map((r, i) => (
          <button
            key={r.pitch}
            aria-label={`Key ${r.name}`}
            data-letter={letters[i]?.toUpperCase() ?? ""}
            data-tonic={r.tonic}
            data-outside={!r.inKey}
            aria-pressed={gathered.includes(r.pitch)}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              press(r.pitch);
            }}
            onPointerUp={() => release(r.pitch)}
            onPointerCancel={() => release(r.pitch)}
            onClick={(e) => e.detail === 0 && strike(r.pitch)}
          >
            <span className="mono">{r.name}</span>
          </button>
        ))}
        <span className={css.acts}>
          <button onClick={rest} title="0" disabled={!write}>
            Rest
          </button>
          <button onClick={tie} title="=" disabled={!write}>
            Tie
          </button>
          {many &&
            write &&
            (together ? (
              <button className={css.wide} onClick={enterGathered} disabled={!gathered.length}>
                {gathered.length ? `Enter ${so(gathered.length, "note")}` : "Touch its notes"}
              </button>
            ) : (
              <button className={css.wide} onClick={() => set({ together: true })}>
                Chord
              </button>
            ))}
        </span>
      </div>
    </section>
  );
}

/** Which step comes next. */
function Next() {
  const cursor = useApp((s) => s.cursor);
  const lane = useApp(laneOf);
  const inTime = useEnter((s) => s.inTime);
  useEnter((s) => s.next);
  useApp((s) => s.selection);
  const { barTicks, beatTicks } = useApp((s) => s.view) ?? {};
  if (inTime) return null;
  if (lane && freeNotes(lane) && barTicks && beatTicks) {
    const at = freeNow(lane);
    return (
      <span className="quiet" data-testid="enter-step">
        bar {Math.floor(at / barTicks) + 1}, beat {Math.floor((at % barTicks) / beatTicks) + 1} is next
      </span>
    );
  }
  return (
    <span className="quiet" data-testid="enter-step">
      step {cursor + 1} is next
    </span>
  );
}

/** Starting the loop to play over. */
function InTime({ countIn }: { countIn: boolean }) {
  const playing = usePlaying();
  const { set } = useEnter.getState();
  return (
    <>
      <label>
        <input type="checkbox" checked={countIn} onChange={(e) => set({ countIn: e.target.checked })} /> Count in
      </label>
      <button onClick={() => void togglePlay(countIn)}>{playing ? "Stop the loop" : "Start the loop"}</button>
    </>
  );
}

/** The MIDI keyboards that are listened to. */
function Midi() {
  const [names, setNames] = useState<string[] | null>(null);
  const [problem, setProblem] = useState("");
  if (!hasMidi()) return null;
  const connect = () => {
    setProblem("");
    listen(setNames).catch(() => setProblem("The browser does not allow it"));
  };
  const told = problem || (names && (names.join(", ") || "No MIDI keyboard is plugged in"));
  return told ? (
    <span className={`quiet ${css.midi}`} role="status" title={told}>
      {told}
    </span>
  ) : (
    <button onClick={connect}>Use a MIDI keyboard</button>
  );
}
