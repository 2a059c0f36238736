import type { Batch, Message, Metered } from "../synth/protocol";
// oxlint-disable-next-line import/default -- the bundler makes its address
import worklet from "../synth/worklet?worker&url";
import { Clocks, pageNow } from "./clocks";
import type { Output } from "./output";
import type { Instrument, Times } from "./performance";
import { Told } from "./told";
import type { Voice } from "./voices";

/** How long the sound's clock is waited for, and how often it is looked at, in ms. */
const PATIENCE = 1000;
const LOOK = 5;

const QUIET: Metered = { lanes: {}, all: 0 };

/** Waits until the sound's clock goes: it stands for a while when a page opens the sound. */
async function going(context: { currentTime: number }): Promise<void> {
  const from = context.currentTime;
  for (let waited = 0; waited < PATIENCE && context.currentTime === from; waited += LOOK)
    await new Promise((done) => setTimeout(done, LOOK));
}

/**
 * Where the lanes sound: one node of the audio graph that works out all of them. A graph with nodes for each
 * voice costs many times as much, and cannot be worked out for a file piece by piece.
 */
export class Stage {
  /** How loud it was when the sound told last. */
  metered: Metered = QUIET;
  private waiting: Message[] = [];
  private readonly clocks: Clocks;

  private constructor(
    private readonly output: Output,
    private readonly node: AudioWorkletNode,
  ) {
    this.clocks = new Clocks(output.time, pageNow());
    node.port.onmessage = ({ data }: MessageEvent<Metered>) => (this.metered = data);
  }

  static async open(output: Output): Promise<Stage> {
    if (!window.isSecureContext)
      throw new Error("browsers work out sound only for pages of this machine, or over https");
    const { context } = output;
    await context.audioWorklet.addModule(worklet);
    const node = new AudioWorkletNode(context, "band", { numberOfInputs: 0, outputChannelCount: [2] });
    node.connect(context.destination);
    await going(context);
    return new Stage(output, node);
  }

  /** What is told in one go goes there in one go. */
  tell(message: Message): void {
    if (!this.waiting.length) queueMicrotask(() => this.flush());
    this.waiting.push(message);
  }

  /** Lets what was told go there now. */
  flush(): void {
    if (this.waiting.length) this.post(this.waiting);
    this.waiting = [];
  }

  private post(messages: readonly Message[]): void {
    const batch: Batch = { zero: this.clocks.zero, messages };
    this.node.port.postMessage(batch);
  }

  /** How loud all of it is on this machine, 0..1. */
  loud(loud: number): void {
    const batch: Batch = { zero: this.clocks.zero, messages: [], loud };
    this.node.port.postMessage(batch);
  }

  /** Lets the sound follow the page's clock. begins: nothing sounds yet. */
  follow(begins = false): void {
    const { zero } = this.clocks;
    this.clocks.compare(this.output.time, pageNow(), begins);
    if (this.clocks.zero !== zero) this.post([]);
  }

  voice(instrument: Instrument, times: () => Times): Voice {
    return new Told(this, instrument, times);
  }
}
