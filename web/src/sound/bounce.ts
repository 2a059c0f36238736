import type { Clip as ClipView } from "../api/gen/view.gen";
import { Backing, drumKit } from "../audio/backing";
import { feed, move, slidesOf } from "../audio/feeder";
import type { Instrument, Times } from "../audio/performance";
import type { RunningLane, Silence } from "../audio/running";
import { Told } from "../audio/told";
import type { Message } from "../synth/protocol";
import { LONGEST_TAIL, type Finished, type Recording } from "./recorder";
import { folder } from "./shelf";
import { MOST, type Depth } from "./wav";
import type { Answer, Task } from "./worker";

/** How long a piece is at most that is worked out at a time, in seconds. */
const PIECE = 30;

/** How many bars are asked for at a time. */
const BARS = 16;

/** The name of the beat among the lanes. */
export const BEAT = "the beat";

/** What is to be made a sound file of. Times are ticks. */
export interface Source {
  from: number;
  to: number;
  barTicks: number;
  beatTicks: number;
  /** Ticks a second. */
  rate: number;
  times: Times;
  /** What begins in a stretch, and where lanes fall silent in it; begin: what sounds already is struck at its start. */
  ask(
    from: number,
    to: number,
    begin: boolean,
  ): Promise<{ lanes: readonly RunningLane[]; silences: readonly Silence[] }>;
  beat: { pattern: string; level: number; groove: ClipView["groove"] } | null;
}

export interface Wanted {
  sampleRate: number;
  depth: Depth;
  /** Whether it is cut to loop; else it has its tail. */
  loops: boolean;
  /** Whether each lane is a file. */
  apart: boolean;
  /** Whether the limiter that is heard is in the file; else nothing is changed, but lowered as a whole. */
  limited: boolean;
}

export interface Sound extends Finished {
  seconds: number;
}

/** Makes sound files, faster than they last, without a sound card. progress is told a share, 0..1. */
export async function bounce(
  source: Source,
  wanted: Wanted,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<Sound> {
  const { sampleRate, depth } = wanted;
  const seconds = (source.to - source.from) / source.rate;
  const frames = Math.round(seconds * sampleRate);
  if (((frames + LONGEST_TAIL * sampleRate) * 2 * depth) / 8 > MOST)
    throw new Error(
      `it would last ${Math.round(seconds / 60)} minutes, more than such a file can hold; allowed: ${Math.floor(MOST / ((sampleRate * 2 * depth) / 8) / 60)} minutes`,
    );
  const worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
  const stop = () => worker.terminate();
  signal.addEventListener("abort", stop);
  const ask = <K extends Answer["done"]>(task: Task) =>
    new Promise<Extract<Answer, { done: K }>>((done, failed) => {
      const over = () => failed(new DOMException("it was stopped", "AbortError"));
      if (signal.aborted) return over();
      signal.addEventListener("abort", over, { once: true });
      worker.onerror = (e) => failed(new Error(e.message || "the work could not be begun"));
      worker.onmessage = ({ data }: MessageEvent<Answer>) => {
        signal.removeEventListener("abort", over);
        if (data.done === "failed") failed(new Error(data.why));
        else done(data as Extract<Answer, { done: K }>);
      };
      worker.postMessage(task);
    });
  try {
    await ask<"begin">({
      do: "begin",
      rate: sampleRate,
      apart: wanted.apart,
      limited: wanted.limited,
      loop: wanted.loops ? frames : 0,
    });
    const messages: Message[] = [];
    const teller = { tell: (message: Message) => void messages.push(message) };
    const voices = new Map<string, Told>();
    const voiceOf = (instrument: Instrument) => {
      let voice = voices.get(instrument.id);
      if (!voice) voices.set(instrument.id, (voice = new Told(teller, instrument, () => source.times)));
      voice.set(instrument.sound);
      return voice;
    };
    const backing = source.beat && new Backing(voiceOf({ id: BEAT, sound: drumKit, many: true }));
    const time = (tick: number) => Math.max((tick - source.from) / source.rate, 0);
    let done = 0;
    const upTo = async (frame: number) => {
      while (done < frame) {
        const next = Math.min(frame, done + PIECE * sampleRate);
        await ask<"piece">({ do: "piece", messages: messages.splice(0), frames: next - done });
        done = next;
        progress(Math.min(done / frames, 1) * 0.95);
      }
    };
    for (let low = source.from; low < source.to;) {
      const high = Math.min((Math.floor(low / source.barTicks) + BARS) * source.barTicks, source.to);
      const { lanes, silences } = await source.ask(low, high, low === source.from);
      for (const { tick, lane } of silences) voices.get(lane)?.silence(time(tick));
      for (const { instrument, on, sound } of lanes) {
        if (on) move(voiceOf(on), sound, low, high, time);
        else if (instrument) {
          const voice = voiceOf(instrument);
          feed(voice, sound, low, high, time, (n) =>
            voice.strike(time(n.at), time(n.at + n.length), n.pitch, n.velocity, slidesOf(n.slides, source.rate)),
          );
        }
      }
      if (backing && source.beat)
        backing.schedule(
          source.beat.pattern,
          source.beat.level,
          { barTicks: source.barTicks, beatTicks: source.beatTicks, groove: source.beat.groove },
          low,
          high,
          time,
        );
      // What is struck early in the next bars is not known yet.
      const known = high === source.to ? high : high - source.barTicks / 2;
      await upTo(Math.max(Math.round(time(known) * sampleRate), done));
      low = high;
    }
    const last = frames + LONGEST_TAIL * sampleRate;
    for (let awake = true; awake && done < last;) {
      const next = Math.min(Math.round(sampleRate / 4), last - done);
      ({ awake } = await ask<"piece">({ do: "piece", messages: messages.splice(0), frames: next }));
      done += next;
    }
    const { frames: made, ...finished } = await ask<"finish">({ do: "finish", depth });
    progress(1);
    return { ...finished, seconds: made / sampleRate };
  } finally {
    signal.removeEventListener("abort", stop);
    worker.terminate();
  }
}

/** Files of lanes in one, packed and named by the lanes; two of one name are numbered. */
export async function packed(recordings: readonly Recording[], nameOf: (lane: string) => string): Promise<Blob> {
  const { downloadZip } = await import("client-zip");
  const met = new Map<string, number>();
  const files = recordings.map(({ lane, file }) => {
    const name = (lane === BEAT ? "Beat" : nameOf(lane)).replaceAll(/[/\\:*?"<>|]/g, "-");
    const count = (met.get(name) ?? 0) + 1;
    met.set(name, count);
    return { name: `${name}${count > 1 ? ` ${count}` : ""}.wav`, input: file };
  });
  const zip = downloadZip(files);
  const disk = await folder(false);
  const put = await disk?.getFileHandle("packed.zip", { create: true }).catch(() => null);
  // Not every browser that has such files lets the page write them.
  const into = await put?.createWritable?.().catch(() => null);
  if (!put || !into || !zip.body) return zip.blob();
  await zip.body.pipeTo(into);
  return put.getFile();
}
