import { Band } from "../synth/band";
import type { Message } from "../synth/protocol";
import { AHEAD, Limiter } from "../synth/master";
import { Noise } from "../synth/parts/wave";
import { Shelf, type Box } from "./shelf";
import { header, samples, type Depth } from "./wav";

/** The name of what is one file of all lanes. */
const WHOLE = "";

/** The loudest that a sample may be. */
const TOP = 0.999;

/** How long what sounds on after a loop is at most, in seconds. */
export const LONGEST_TAIL = 20;

/** How many frames are turned down at a time. */
const BLOCK = 2 ** 16;

/** How many frames of silence are put aside at a time. */
const SILENCE = 2 ** 20;

/** A file while it is made: its samples, two channels in turns, put aside piece by piece. */
interface Track {
  /** Its beginning, which the end of a loop is laid over. */
  first: Float32Array<ArrayBuffer>;
  rest: Box;
}

export interface Recording {
  lane: string;
  file: Blob;
}

/** Files as they are made. */
export interface Finished {
  recordings: Recording[];
  /** By what all was lowered to stay under full scale, 0..1; 1: it was not. */
  gain: number;
  /** The highest sample before it was lowered or limited. */
  peak: number;
  /** The least that the limiter let through, 0..1; 1: it did nothing, or was not asked for. */
  held: number;
}

/**
 * Works out lanes piece by piece, as loud as they are. What is worked out is put aside, so that memory holds
 * one piece however long the whole is. Nothing is known of full scale until the end.
 */
export class Recorder {
  private readonly band: Band;
  private readonly shelf = Shelf.open();
  private readonly tracks = new Map<string, Track>();
  private frames = 0;
  private peak = 0;
  /** The least that the limiter lets through, 0..1; 1: all. */
  private held = 1;
  /** How many frames of the beginning are kept at hand. */
  private readonly kept: number;

  /** apart: each lane by itself. limited: as the limiter lets it through. loop: after so many frames it begins again,
   * and what sounds on is laid over its beginning; 0: it does not. */
  constructor(
    private readonly rate: number,
    private readonly apart: boolean,
    private readonly limited: boolean,
    private readonly loop: number,
  ) {
    this.band = new Band(rate);
    this.kept = Math.min(loop, LONGEST_TAIL * rate);
  }

  tell(messages: readonly Message[]): void {
    for (const message of messages) this.band.tell(message);
  }

  /** Whether something still sounds. */
  get awake(): boolean {
    return this.band.awake;
  }

  /** Works out the next frames. */
  async render(n: number): Promise<void> {
    const left = this.loop - this.frames;
    if (left > 0 && left < n) {
      await this.render(left);
      await this.render(n - left);
      return;
    }
    const own = new Map<string, { left: Float32Array; right: Float32Array }>();
    const make = () => ({ left: new Float32Array(n), right: new Float32Array(n) });
    const all = make();
    const into = (lane: string) => {
      let out = own.get(lane);
      if (!out) own.set(lane, (out = make()));
      return out;
    };
    this.band.render(all.left, all.right, 0, n, this.apart ? into : undefined);
    if (this.apart)
      for (const { left, right } of own.values()) {
        this.note(left, right);
        for (let i = 0; i < n; i++) {
          all.left[i]! += left[i]!;
          all.right[i]! += right[i]!;
        }
      }
    else own.set(WHOLE, all);
    if (!this.loop) this.note(all.left, all.right);
    for (const name of new Set([...this.tracks.keys(), ...own.keys()])) await this.put(name, own.get(name), n);
    this.frames += n;
  }

  private note(left: Float32Array, right: Float32Array): void {
    for (let i = 0; i < left.length; i++) this.peak = Math.max(this.peak, Math.abs(left[i]!), Math.abs(right[i]!));
  }

  private async put(
    name: string,
    of: { left: Float32Array; right: Float32Array } | undefined,
    n: number,
  ): Promise<void> {
    let track = this.tracks.get(name);
    if (!track) {
      track = { first: new Float32Array(2 * this.kept), rest: await (await this.shelf).box() };
      this.tracks.set(name, track);
      // What begins late was silent until then.
      for (let before = this.kept; before < this.frames; before += SILENCE)
        track.rest.append(new Float32Array(2 * Math.min(SILENCE, this.frames - before)));
    }
    const turns = new Float32Array(2 * n);
    if (of)
      for (let i = 0; i < n; i++) {
        turns[2 * i] = of.left[i]!;
        turns[2 * i + 1] = of.right[i]!;
      }
    this.add(track, turns);
  }

  private add({ first, rest }: Track, turns: Float32Array<ArrayBuffer>): void {
    const at = 2 * this.frames;
    if (this.loop && at >= 2 * this.loop) {
      // Round and round, as far as the beginning is at hand.
      for (let i = 0; i < turns.length; i++) {
        const place = (at + i) % (2 * this.loop);
        if (place < first.length) first[place]! += turns[i]!;
      }
      return;
    }
    const begins = Math.max(Math.min(first.length - at, turns.length), 0);
    if (begins > 0) first.set(turns.subarray(0, begins), at);
    if (begins < turns.length) rest.append(turns.slice(begins));
  }

  /** How many frames the files have. */
  get length(): number {
    return this.loop || this.frames;
  }

  /** The files; nothing is recorded afterwards. */
  async finish(depth: Depth): Promise<Finished> {
    if (this.loop) await this.measureLoop();
    const gains = this.limited ? await this.limit() : null;
    // The finest that is written lies under full scale.
    const gain = !gains && this.peak > TOP ? TOP / this.peak : 1;
    const recordings: Recording[] = [];
    for (const [lane, track] of this.tracks) {
      const box = await (await this.shelf).box();
      const put = (data: ArrayBuffer) => box.append(new Uint8Array(data));
      const dither = new Noise();
      put(header(this.length, this.rate, depth));
      const held = gains && new Stream(gains.pieces());
      for await (const part of piecesOf(track)) {
        if (held) {
          const own = await held.next(part.length / 2);
          own.forEach((v, i) => {
            part[2 * i]! *= v;
            part[2 * i + 1]! *= v;
          });
        }
        put(samples(part, depth, gain, dither));
      }
      recordings.push({ lane, file: await box.file() });
    }
    return { recordings, gain, peak: this.peak, held: this.held };
  }

  /** Measures what is cut to loop, where the end is laid over the beginning: each file, and their sum. */
  private async measureLoop(): Promise<void> {
    const sum = new Float32Array(2 * this.kept);
    for (const { first, rest } of this.tracks.values()) {
      this.measure(first);
      first.forEach((v, i) => (sum[i]! += v));
      for await (const part of rest.pieces()) this.measure(part);
    }
    this.measure(sum);
  }

  private measure(turns: Float32Array): void {
    for (const v of turns) this.peak = Math.max(this.peak, Math.abs(v));
  }

  /** By how much each frame of all files is turned down, as the limiter does that is heard. What loops has gone
   * round once before, so that its beginning is as after its end. */
  private async limit(): Promise<Box> {
    const limiter = new Limiter(this.rate);
    const box = await (await this.shelf).box();
    let skip = AHEAD + (this.loop ? this.length : 0); // what comes out belongs to what went in that much before
    const take = (left: Float32Array, right: Float32Array): void => {
      const gains = new Float32Array(left.length);
      limiter.render(left, right, (i, gain) => (gains[i] = gain));
      this.held = gains.reduce((least, v) => Math.min(least, v), this.held);
      const from = Math.min(skip, gains.length);
      skip -= from;
      if (from < gains.length) box.append(gains.slice(from));
    };
    const round = async (frames: number): Promise<void> => {
      const streams = [...this.tracks.values()].map((track) => new Stream(piecesOf(track)));
      for (let at = 0; at < frames; at += BLOCK) {
        const n = Math.min(BLOCK, frames - at);
        const [left, right] = [new Float32Array(n), new Float32Array(n)];
        for (const stream of streams) {
          const turns = await stream.next(2 * n);
          for (let i = 0; i < n; i++) {
            left[i]! += turns[2 * i]!;
            right[i]! += turns[2 * i + 1]!;
          }
        }
        take(left, right);
      }
    };
    await round(this.length);
    if (this.loop) await round(this.length);
    if (this.loop) await round(Math.min(AHEAD, this.length));
    else take(new Float32Array(AHEAD), new Float32Array(AHEAD));
    return box;
  }
}

/** The samples of a track, two channels in turns, from its beginning. */
async function* piecesOf({ first, rest }: Track): AsyncGenerator<Float32Array<ArrayBuffer>> {
  if (first.length) yield first.slice();
  yield* rest.pieces();
}

/** What comes in pieces, asked for in others. */
class Stream {
  private piece: Float32Array = new Float32Array(0);
  private at = 0;

  constructor(private readonly pieces: AsyncGenerator<Float32Array>) {}

  /** The next n numbers; nothing where there are no more. */
  async next(n: number): Promise<Float32Array> {
    const out = new Float32Array(n);
    for (let done = 0; done < n;) {
      if (this.at === this.piece.length) {
        const { value, done: over } = await this.pieces.next();
        if (over) break;
        this.piece = value;
        this.at = 0;
        continue;
      }
      const part = this.piece.subarray(this.at, this.at + n - done);
      out.set(part, done);
      done += part.length;
      this.at += part.length;
    }
    return out;
  }
}
