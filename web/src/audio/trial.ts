import { between } from "./events";
import type { Instrument, Trial } from "./performance";
import { voices, type Voice } from "./voices";

/** What is tried out over the loop: notes over and over, in a voice of their own. */
export class OnTrial {
  private on: (Trial & { voice: Voice }) | null = null;
  /** Notes that were tried out since the page was opened. */
  tried = 0;

  /** Takes what is to be tried out, in place of what was; null: nothing. */
  take(trial: Trial | null, made: (instrument: Instrument) => Voice): void {
    this.on?.voice.dispose();
    this.on = null;
    if (!trial || !voices[trial.instrument.sound.voice]) return;
    this.on = { ...trial, voice: made({ ...trial.instrument, id: `${trial.instrument.id} on trial` }) };
  }

  silence(time: number): void {
    this.on?.voice.silence(time);
    this.on?.voice.rest(time);
  }

  /** Schedules what it plays between two ticks of the clip. */
  schedule(low: number, high: number, time: (at: number) => number): void {
    if (!this.on) return;
    const { voice, notes, ticks } = this.on;
    for (let start = low; start < high;) {
      const base = Math.floor(start / ticks) * ticks;
      const end = Math.min(high, base + ticks);
      between(notes, start - base, end - base, (n) => {
        voice.strike(time(base + n.at), time(base + n.at + n.length), n.pitch, n.velocity);
        this.tried++;
      });
      start = end;
    }
  }
}
