/** A value that goes to where it is sent without a click. */
export class Smooth {
  private target: number;

  /** seconds: after how long it has gone all but 1/e of its way. */
  constructor(
    public value: number,
    private readonly speed: number,
  ) {
    this.target = value;
  }

  static within(seconds: number, rate: number, value = 0): Smooth {
    return new Smooth(value, 1 / (seconds * rate));
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

  /** Where it is once n samples have passed. */
  after(n: number): number {
    const { value, target } = this;
    if (value === target) return value;
    this.value = value + (target - value) * (1 - (1 - this.speed) ** n);
    if (Math.abs(target - this.value) < 1e-7) this.value = target;
    return this.value;
  }

  /** Whether it is at nothing and stays there. */
  get still(): boolean {
    return this.target === 0 && this.value < 1e-5;
  }
}

/**
 * A value that goes to where it is sent without even a kink, for what a filter is tuned by: two smoothings, one
 * after the other, of as many samples as pass at a time.
 */
export class Glider {
  private target: number;
  private first: number;

  constructor(
    public value: number,
    private readonly seconds: number,
    private readonly rate: number,
  ) {
    this.target = value;
    this.first = value;
  }

  to(target: number): void {
    this.target = target;
  }

  settle(): void {
    this.first = this.target;
    this.value = this.target;
  }

  /** Where it is once n samples have passed. */
  next(n: number): number {
    if (this.value === this.target && this.first === this.target) return this.value;
    const share = 1 - Math.exp(-n / (this.seconds * this.rate));
    this.first += (this.target - this.first) * share;
    this.value += (this.first - this.value) * share;
    if (Math.abs(this.target - this.value) < 1e-6 && Math.abs(this.target - this.first) < 1e-6) this.settle();
    return this.value;
  }
}
