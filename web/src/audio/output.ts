/** How often it is looked what to schedule, in ms. */
const EVERY = 50;

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

  /** Lets the sound go, which browsers allow once somebody has clicked or typed. */
  start(): Promise<void> {
    return this.context.resume();
  }

  /** Calls turn every so often until another is given; null: no longer. */
  every(turn: (() => void) | null): void {
    if (!turn !== !this.turn) this.clock.postMessage(turn ? EVERY : 0);
    this.turn = turn;
  }
}
