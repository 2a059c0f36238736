import * as Tone from "tone";

/** What every voice passes at last: its expression (11), volume (7) and pan (10). */
export class Desk {
  private readonly expression = new Tone.Gain(1);
  private readonly volume = new Tone.Gain(1);
  private readonly panner = new Tone.Panner(0);

  private awake = true;

  constructor(private readonly out: Tone.InputNode) {
    this.expression.chain(this.volume, this.panner, out);
  }

  /** Takes the voice out of what is worked out for the loudspeakers, or puts it back: what does not sound
   * costs nothing. */
  wake(awake: boolean): void {
    if (awake === this.awake) return;
    this.awake = awake;
    if (awake) this.panner.connect(this.out);
    else this.panner.disconnect(this.out);
  }

  /** Where a voice goes in. */
  get in(): Tone.Gain {
    return this.expression;
  }

  /** Takes a controller's value, and tells whether that is one of its own. */
  control(time: number, controller: number, value: number): boolean {
    switch (controller) {
      case 7:
        this.volume.gain.setTargetAtTime((value / 100) ** 1.6, time, 0.01);
        return true;
      case 10:
        this.panner.pan.setTargetAtTime(Math.max((value - 64) / 63, -1), time, 0.01);
        return true;
      case 11:
        this.expression.gain.setTargetAtTime((value / 127) ** 1.6, time, 0.01);
        return true;
    }
    return false;
  }

  dispose(): void {
    for (const part of [this.expression, this.volume, this.panner]) part.dispose();
  }
}
