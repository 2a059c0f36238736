import type { Note } from "../api/gen/view.gen";
import type { Course } from "./course";
import { Routed } from "../ports/routed";
import type { Instrument, Times } from "./performance";
import type { Stage } from "./stage";
import type { Voice } from "./voices";

/** What a voice is remade for when it changes. */
const nameOf = ({ sound, many, channel, apart }: Instrument): string => `${sound.voice} ${many} ${channel} ${apart}`;

/** Between making one voice ahead of time and the next, in ms. */
const BREATH = 20;

/** Within how many ticks a note stands where it stood. */
const NEAR = 3;

/** The voices of the lanes that sound, each made when it is first asked for. Times are seconds of the page's clock. */
export class Ensemble {
  private readonly voices = new Map<string, { name: string; voice: Voice }>();

  /** times: what the times of its voices go by. called: what they are told apart by from those of another
   * ensemble. */
  constructor(
    private readonly stage: Stage,
    private readonly times: () => Times,
    private readonly called = "",
  ) {}

  /** Makes a voice for whoever keeps it. */
  made(instrument: Instrument): Voice {
    const builtIn = this.stage.voice(instrument, this.times);
    return instrument.route ? new Routed(builtIn, instrument) : builtIn;
  }

  of(instrument: Instrument): Voice {
    const name = nameOf(instrument);
    let own = this.voices.get(instrument.id);
    if (own?.name !== name) {
      own?.voice.dispose();
      own = { name, voice: this.made({ ...instrument, id: instrument.id + this.called }) };
      this.voices.set(instrument.id, own);
    }
    own.voice.set(instrument.sound);
    return own.voice;
  }

  /** Makes voices before they are due, one at a time, so that what sounds is not kept waiting. */
  async prepare(instruments: Iterable<Instrument>): Promise<void> {
    for (const instrument of instruments) {
      if (this.voices.get(instrument.id)?.name === nameOf(instrument)) continue;
      this.of(instrument);
      await new Promise((done) => setTimeout(done, BREATH));
    }
  }

  /** The ids of those that were made. */
  get ids(): string[] {
    return [...this.voices.keys()];
  }

  silence(time: number, id?: string): void {
    if (id !== undefined) this.voices.get(id)?.voice.silence(time);
    else for (const { voice } of this.voices.values()) voice.silence(time);
  }

  /** Puts back all that was moved of a voice, or of all. */
  rest(time: number, id?: string): void {
    if (id !== undefined) this.voices.get(id)?.voice.rest(time);
    else for (const { voice } of this.voices.values()) voice.rest(time);
  }

  /** Ends what a voice sounds on a port that is not among what begins at its place; null: nobody knows. */
  prune(id: string, course: Course, begun: (tick: number) => { notes: readonly Note[]; at: number } | null): void {
    this.voices.get(id)?.voice.prune?.((key, on) => {
      const of = begun(Math.round(course.tickOf(on)));
      return !of || of.notes.some((n) => n.pitch === key && Math.abs(n.at - of.at) < NEAR);
    });
  }

  dismiss(id: string): void {
    this.voices.get(id)?.voice.dispose();
    this.voices.delete(id);
  }
}
