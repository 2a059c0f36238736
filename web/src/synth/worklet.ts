import { Band } from "./band";
import { AHEAD, Master } from "./master";
import type { Batch, Metered } from "./protocol";

// What an audio worklet's scope holds; the library of types for pages does not know it.
declare const sampleRate: number;
declare const currentFrame: number;
declare class AudioWorkletProcessor {
  readonly port: { onmessage: ((e: MessageEvent<Batch>) => void) | null; postMessage: (told: Metered) => void };
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

/** How often the page is told how loud it is, in blocks of samples: some twenty times a second. */
const BLOCKS = 16;

/** The band, where the browser works out what goes to the loudspeakers. */
class BandProcessor extends AudioWorkletProcessor {
  private readonly band = new Band(sampleRate);
  private readonly master = new Master(sampleRate);
  /** By how many samples the page's clock is ahead of the sound's. */
  private ahead = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }) => {
      if (data.loud !== undefined) this.master.set(data.loud);
      this.ahead = Math.round(data.zero * sampleRate);
      for (const message of data.messages) this.band.tell(message);
    };
  }

  private highest = 0;
  private blocks = 0;
  private heard = false;

  /** Tells how loud it is while anything is heard, and once when nothing is any more. */
  private meter(left: Float32Array, right: Float32Array): void {
    for (let i = 0; i < left.length; i++)
      this.highest = Math.max(this.highest, Math.abs(left[i]!), Math.abs(right[i]!));
    if (++this.blocks < BLOCKS) return;
    const all = this.highest;
    this.blocks = 0;
    this.highest = 0;
    if (all === 0 && !this.heard) return;
    this.heard = all > 0;
    this.port.postMessage({ lanes: this.band.peaks(), all });
  }

  process(_inputs: unknown, [out]: [[Float32Array, Float32Array]]): boolean {
    const [left, right] = out;
    // The limiter gives back what was worked out some samples ago.
    this.band.frame = currentFrame + this.ahead + AHEAD;
    left.fill(0);
    right.fill(0);
    this.band.render(left, right, 0, left.length);
    this.meter(left, right);
    this.master.render(left, right);
    return true;
  }
}

registerProcessor("band", BandProcessor);
