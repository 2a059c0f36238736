import * as Tone from "tone";
import type { Message, Slide, Timbre } from "../synth/protocol";
// oxlint-disable-next-line import/default -- the bundler makes its address
import worklet from "../synth/worklet?worker&url";
import type { Instrument } from "./performance";
import { voices, type Voice } from "./voices";

/**
 * Where the lanes sound: one node of the audio graph that works out all of them. A graph with nodes for each
 * voice costs many times as much, and cannot be worked out for a file piece by piece.
 */
export class Stage {
  private waiting: Message[] = [];

  private constructor(private readonly node: AudioWorkletNode) {}

  static async open(): Promise<Stage> {
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
    return new Heard(this, instrument, portamento);
  }
}

/** A lane's voice on the stage. */
class Heard implements Voice {
  private key = "";

  constructor(
    private readonly stage: Stage,
    private readonly instrument: Instrument,
    private readonly portamento: readonly number[],
  ) {
    if (!voices[instrument.sound.voice]) throw new Error(`there is no voice ${instrument.sound.voice}`);
    this.set(instrument.sound);
  }

  private get lane(): string {
    return this.instrument.id;
  }

  set(sound: Timbre["sound"]): void {
    const key = JSON.stringify(sound);
    if (key === this.key) return;
    this.key = key;
    this.stage.tell({ lane: this.lane, timbre: { sound, many: this.instrument.many, portamento: this.portamento } });
  }

  strike(at: number, end: number, midi: number, velocity: number, slides?: readonly Slide[]): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "strike", midi, velocity, end, ...(slides ? { slides } : {}) } });
  }

  silence(at: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "silence" } });
  }

  bend(at: number, value: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "bend", value } });
  }

  control(at: number, controller: number, value: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "controller", controller, value } });
  }

  press(at: number, value: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "press", value } });
  }

  dispose(): void {
    this.stage.tell({ lane: this.lane, gone: true });
  }
}
