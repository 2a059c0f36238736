import { Band } from "./band";
import { Master } from "./master";
import type { Batch } from "./protocol";

// What an audio worklet's scope holds; the library of types for pages does not know it.
declare const sampleRate: number;
declare const currentFrame: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

/** The band, where the browser works out what goes to the loudspeakers. */
class BandProcessor extends AudioWorkletProcessor {
  private readonly band = new Band(sampleRate);
  private readonly master = new Master(sampleRate);
  /** By how many samples the page's clock is ahead of the sound's. */
  private ahead = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<Batch>) => {
      this.ahead = Math.round(data.zero * sampleRate);
      for (const message of data.messages) this.band.tell(message);
    };
  }

  process(_inputs: unknown, [out]: [[Float32Array, Float32Array]]): boolean {
    const [left, right] = out;
    this.band.frame = currentFrame + this.ahead;
    left.fill(0);
    right.fill(0);
    this.band.render(left, right, 0, left.length);
    this.master.render(left, right);
    return true;
  }
}

registerProcessor("band", BandProcessor);
