/** Where the page's sound goes: its context, and turns in which what comes next is scheduled. */
export class Output {
  readonly context = new AudioContext({ latencyHint: "interactive" });
  private readonly clock = new Worker(new URL("./turns.ts", import.meta.url), { type: "module" });
  private turn: (() => void) | null = null;

  constructor() {
    this.clock.onmessage = () => this.turn?.();
  }

  /** The sound's own clock, in seconds. */
  get time(): number {
    return this.context.currentTime;
  }

  /** How many seconds later than it is worked out the sound is heard: the device's own delay. */
  get delay(): number {
    return this.context.outputLatency || 0; // not every browser tells it
  }

  /** Lets the sound go, which browsers allow once somebody has clicked or typed. */
  start(): Promise<void> {
    return this.context.resume();
  }

  /** Calls turn at each turn of the clock until another is given; null: no longer. */
  every(turn: (() => void) | null): void {
    this.turn = turn;
  }
}
