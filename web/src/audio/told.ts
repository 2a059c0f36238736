import type { Message, Slide, Timbre } from "../synth/protocol";
import type { Instrument, Times } from "./performance";
import { voices, type Voice } from "./voices";

/** Who works out what lanes sound. */
interface Teller {
  tell(message: Message): void;
}

/** A lane's voice, as it is told to whoever works it out. */
export class Told implements Voice {
  private key = "";

  constructor(
    private readonly stage: Teller,
    private readonly instrument: Instrument,
    private readonly times: () => Times,
  ) {
    if (!voices[instrument.sound.voice]) throw new Error(`there is no voice ${instrument.sound.voice}`);
    this.set(instrument.sound);
  }

  private get lane(): string {
    return this.instrument.id;
  }

  set(sound: Timbre["sound"]): void {
    const { tempo, portamento, echoes } = this.times();
    const echo = ((echoes[sound.delayRate] ?? 0) * 60) / tempo;
    const key = JSON.stringify([sound, echo]);
    if (key === this.key) return;
    this.key = key;
    this.stage.tell({ lane: this.lane, timbre: { sound, many: this.instrument.many, portamento, echo } });
  }

  strike(at: number, end: number, midi: number, velocity: number, slides?: readonly Slide[]): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "strike", midi, velocity, end, ...(slides ? { slides } : {}) } });
  }

  lift(at: number, midi: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "lift", midi } });
  }

  silence(at: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "silence" } });
  }

  rest(at: number): void {
    this.stage.tell({ lane: this.lane, at, act: { do: "rest" } });
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
