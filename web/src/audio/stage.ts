import * as Tone from "tone";
import type { Message } from "../synth/protocol";
// oxlint-disable-next-line import/default -- the bundler makes its address
import worklet from "../synth/worklet?worker&url";
import type { Instrument } from "./performance";
import { Told } from "./told";
import type { Voice } from "./voices";

/**
 * Where the lanes sound: one node of the audio graph that works out all of them. A graph with nodes for each
 * voice costs many times as much, and cannot be worked out for a file piece by piece.
 */
export class Stage {
  private waiting: Message[] = [];

  private constructor(private readonly node: AudioWorkletNode) {}

  static async open(): Promise<Stage> {
    if (!window.isSecureContext)
      throw new Error("browsers work out sound only for pages of this machine, or over https");
    const context = Tone.getContext();
    await context.addAudioWorkletModule(worklet);
    const node = context.createAudioWorkletNode("band", { numberOfInputs: 0, outputChannelCount: [2] });
    Tone.connect(node, Tone.getDestination());
    return new Stage(node);
  }

  /** What is told in one go goes there in one go. */
  tell(message: Message): void {
    if (!this.waiting.length)
      queueMicrotask(() => {
        this.node.port.postMessage(this.waiting);
        this.waiting = [];
      });
    this.waiting.push(message);
  }

  voice(instrument: Instrument, portamento: readonly number[]): Voice {
    return new Told(this, instrument, portamento);
  }
}
