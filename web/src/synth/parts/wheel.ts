/** The range of a wheel until a file says otherwise, in semitones. */
const RANGE = 2;

/** The vibrato of controller 1: its rate in Hz, and its depth at 127 in semitones. */
const RATE = 5.2;
const DEPTH = 0.4;

/** What bends a voice: its wheel, with the range that registered parameter 0 sets, and its vibrato. */
export class Wheel {
  private range = RANGE;
  private value = 0;
  private parameter: [number, number] = [127, 127];
  private phase = 0;
  private depth = 0;
  private wanted = 0;

  constructor(private readonly rate: number) {}

  /** Moves it, -8192..8191. */
  bend(value: number): void {
    this.value = value / 8192;
  }

  /** Takes a controller's value, and tells whether that is one of its own. */
  control(controller: number, value: number): boolean {
    switch (controller) {
      case 1:
        this.wanted = (value / 127) * DEPTH;
        return true;
      case 6:
        if (this.parameter[0] === 0 && this.parameter[1] === 0) this.range = value;
        return true;
      case 100:
        this.parameter[1] = value;
        return true;
      case 101:
        this.parameter[0] = value;
        return true;
    }
    return false;
  }

  settle(): void {
    this.depth = this.wanted;
  }

  /** By how many semitones it bends; n samples pass. */
  next(n: number): number {
    this.phase = (this.phase + (n * RATE) / this.rate) % 1;
    this.depth += (this.wanted - this.depth) * Math.min((n / this.rate) * 50, 1);
    return this.value * this.range + this.depth * Math.sin(2 * Math.PI * this.phase);
  }
}
