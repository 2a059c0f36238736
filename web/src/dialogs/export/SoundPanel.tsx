import { Button, Checkbox } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import type { Sound, Source, Wanted } from "../../sound/bounce";
import type { Depth } from "../../sound/wav";
import { message, useApp } from "../../state/store";
import { Segments } from "../../controls/Segments";
import css from "./ExportPanel.module.css";

interface Props {
  /** What is made a file of; with the beat, or without. */
  source: (beat: boolean) => Source;
  /** What the file is called, without its kind. */
  name: string;
  /** Why nothing can be made; empty: it can. */
  trouble: string;
  /** What a lane is called, by its id. */
  nameOf: (lane: string) => string;
  /** Is given what Enter does. */
  main: (run: () => void) => void;
}

type State =
  | { at: "idle" }
  | { at: "working"; share: number; stop: AbortController }
  | { at: "failed"; why: string }
  | { at: "done"; sound: Sound; url: string; file: string; size: number; took: number };

const decibels = (gain: number) => Math.abs(20 * Math.log10(gain)).toFixed(1);

/** Makes a sound file with the very voices that are heard. */
export function SoundPanel({ source, name, trouble, nameOf, main }: Props) {
  const beat = useApp((s) => s.piece?.beat.pattern ?? "none") !== "none";
  const [rate, setRate] = useState("44100");
  const [depth, setDepth] = useState("24");
  const [loops, setLoops] = useState("tail");
  const [apart, setApart] = useState("one");
  const [heard, setHeard] = useState("heard");
  const [withBeat, setWithBeat] = useState(true);
  const [state, setState] = useState<State>({ at: "idle" });
  const link = useRef<HTMLAnchorElement>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const url = state.at === "done" ? state.url : "";
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  useEffect(() => {
    if (url) link.current?.focus();
  }, [url]);
  const forget =
    <T,>(set: (v: T) => void) =>
    (v: T) => {
      set(v);
      setState({ at: "idle" });
    };

  const make = async () => {
    const control = new AbortController();
    stop.current = control;
    setState({ at: "working", share: 0, stop: control });
    const wanted: Wanted = {
      sampleRate: Number(rate),
      depth: Number(depth) as Depth,
      loops: loops === "loop",
      apart: apart === "each",
      limited: heard === "heard",
    };
    const began = performance.now();
    try {
      const { bounce, packed } = await import("../../sound/bounce");
      const sound = await bounce(source(beat && withBeat), wanted, control.signal, (share) =>
        setState({ at: "working", share, stop: control }),
      );
      const file = wanted.apart ? await packed(sound.recordings, nameOf) : (sound.recordings[0]?.file ?? new Blob());
      if (control.signal.aborted) return;
      setState({
        at: "done",
        sound,
        url: URL.createObjectURL(file),
        file: `${name}.${wanted.apart ? "zip" : "wav"}`,
        size: file.size,
        took: (performance.now() - began) / 1000,
      });
    } catch (problem) {
      setState(control.signal.aborted ? { at: "idle" } : { at: "failed", why: message(problem) });
    }
  };
  const run = () => {
    if (state.at === "done") link.current?.click();
    else if (state.at !== "working" && !trouble) void make();
  };
  useEffect(() => main(run));
  return (
    <>
      <div className={css.row}>
        <span>Sampled</span>
        <div className={css.inline}>
          <Segments
            label="Samples a second"
            value={rate}
            onChange={forget(setRate)}
            all={{ "44100": "44.1 kHz", "48000": "48 kHz" }}
          />
          <Segments
            label="Bits of a sample"
            value={depth}
            onChange={forget(setDepth)}
            all={{ "16": "16 bits", "24": "24 bits", "32": "32, float" }}
          />
        </div>
      </div>
      <div className={css.row}>
        <span>Ends</span>
        <Segments
          label="How it ends"
          value={loops}
          onChange={forget(setLoops)}
          all={{ tail: "when its echoes have died away", loop: "so that it loops" }}
        />
      </div>
      <div className={css.row}>
        <span>Peaks</span>
        <Segments
          label="What becomes of peaks over full scale"
          value={heard}
          onChange={forget(setHeard)}
          all={{ heard: "limited, as heard", untouched: "untouched, lowered as a whole" }}
        />
      </div>
      <div className={css.row}>
        <span>Files</span>
        <div className={css.inline}>
          <Segments
            label="How many files"
            value={apart}
            onChange={forget(setApart)}
            all={{ one: "one", each: "one for each lane, packed" }}
          />
          {beat && (
            <Checkbox
              size="xs"
              label="with the beat"
              checked={withBeat}
              onChange={(e) => forget(setWithBeat)(e.currentTarget.checked)}
            />
          )}
        </div>
      </div>
      <div className={css.summary} aria-live="polite" data-testid="sound">
        {trouble && <p className={css.trouble}>{trouble}</p>}
        {state.at === "idle" && !trouble && (
          <p className="quiet">It is made by the voices that you hear, without a sound card. Stereo, WAV.</p>
        )}
        {state.at === "working" && (
          <p>
            <progress aria-label="Making the sound file" value={state.share} max={1} /> {Math.floor(state.share * 100)}{" "}
            %
          </p>
        )}
        {state.at === "failed" && <p className={css.trouble}>The sound file could not be made: {state.why}.</p>}
        {state.at === "done" && (
          <>
            <p>
              <b>{state.file}</b> lasts {state.sound.seconds.toFixed(1)} s, {(state.size / 1e6).toFixed(1)} MB, made in{" "}
              {state.took.toFixed(1)} s.
            </p>
            <p>
              {state.sound.peak === 0
                ? "It is silent."
                : state.sound.held < 0.999
                  ? `Its highest peaks were limited by ${decibels(state.sound.held)} dB, as they are heard.`
                  : state.sound.gain < 1
                    ? `All was lowered by ${decibels(state.sound.gain)} dB, so that no peak goes over full scale.`
                    : `Its peak lies ${decibels(state.sound.peak)} dB under full scale; nothing was changed.`}
            </p>
          </>
        )}
      </div>
      <div className={css.actions}>
        {state.at === "working" ? (
          <Button variant="default" onClick={() => state.stop.abort()}>
            Stop
          </Button>
        ) : state.at === "done" ? (
          <a ref={link} className={css.download} href={state.url} download={state.file}>
            Download
          </a>
        ) : (
          <Button data-main disabled={trouble !== ""} onClick={() => void make()}>
            Make the sound file
          </Button>
        )}
      </div>
    </>
  );
}

/** Whether notes or sound is written. */
export function KindOf({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <div className={css.row}>
      <span>File</span>
      <Segments label="Kind of file" value={value} onChange={onChange} all={{ midi: "MIDI", sound: "Sound" }} />
    </div>
  );
}
