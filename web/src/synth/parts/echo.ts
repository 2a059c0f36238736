/** After how many seconds an echo comes back, and how much of it. */
const TIME = 0.29;
const BACK = 0.32;

/** A value that goes to where it is sent without a click. */
export class Smooth {
  private target: number;

  constructor(
    public value: number,
    private readonly speed: number,
  ) {
    this.target = value;
  }

  to(target: number): void {
    this.target = target;
  }

  /** Is there at once. */
  settle(): void {
    this.value = this.target;
  }

  next(): number {
    this.value += (this.target - this.value) * this.speed;
    return this.value;
  }

  /** Whether it is at nothing and stays there. */
  get still(): boolean {
    return this.target === 0 && this.value < 1e-5;
  }
}

/** What comes back of a voice, ever softer. */
export class Echo {
  private line: Float32Array | null = null;
  private place = 0;
  private readonly wet: Smooth;

  constructor(private readonly rate: number) {
    this.wet = new Smooth(0, 1 / (0.02 * rate));
  }

  settle(): void {
    this.wet.settle();
  }

  /** How much of it is heard, 0..1. */
  set(wet: number): void {
    this.wet.to(wet);
  }

  /** How long it goes on after what went in, in seconds. */
  get tail(): number {
    return this.wet.still ? 0 : (Math.log(1e-4) / Math.log(BACK) + 1) * TIME;
  }

  render(out: Float32Array, n: number): void {
    if (this.wet.still) {
      this.line = null;
      this.place = 0;
      return;
    }
    const line = (this.line ??= new Float32Array(Math.round(TIME * this.rate)));
    let { place } = this;
    for (let i = 0; i < n; i++) {
      const turn = (this.wet.next() * Math.PI) / 2;
      const back = line[place]!;
      line[place] = out[i]! + back * BACK;
      out[i] = Math.cos(turn) * out[i]! + Math.sin(turn) * back;
      if (++place === line.length) place = 0;
    }
    this.place = place;
  }
}
