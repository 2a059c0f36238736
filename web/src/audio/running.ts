import type { Held } from "../api/gen/order.gen";
import type { LaneSilence, PlayedLane } from "../api/gen/server.gen";
import type { Instrument } from "./performance";

/** A lane of a clip in the running order, as it sounds for a while. Times are ticks of the order. */
export interface RunningLane {
  id: string;
  /** What it sounds with; null: it acts on another's. */
  instrument: Instrument | null;
  on: Instrument | null;
  sound: PlayedLane;
}

/** A note as it was scheduled: where in the order, in which lane, and by how many seconds too late. */
interface Scheduled {
  at: number;
  length: number;
  pitch: number;
  lane: string;
  late: number;
}

/** Is told what is scheduled, and where a lane falls silent. */
export interface Listener {
  note(note: Scheduled): void;
  silence(lane: string, at: number): void;
}

/** A lane falls silent at a tick of the order: what it sounds ends there. */
export interface Silence {
  tick: number;
  lane: string;
}

/** Silences as the server tells of them, by the ids of lanes. */
export const silencesOf = (told: readonly LaneSilence[], idOf: (clip: string, lane: string) => string): Silence[] =>
  told.map(({ at, clip, lane }) => ({ tick: at, lane: idOf(clip, lane) }));

interface Chunk {
  lanes: readonly RunningLane[];
  silences: readonly Silence[];
  stale: boolean;
  asked: number;
  /** From which tick on it is not known yet what begins. */
  unknown: number;
  /** How the zones stand where it ends. */
  after: Promise<readonly Held[]> | undefined;
}

/** What begins in a stretch of the order, and how the zones stand where it ends. */
export interface Stretch {
  lanes: readonly RunningLane[];
  silences: readonly Silence[];
  zones: readonly Held[];
}

/** Asks for what begins in a stretch of the order; before is how the zones stand there, where that is known. */
export type Ask = (
  from: number,
  to: number,
  begin: boolean,
  before: Promise<readonly Held[]> | undefined,
) => Promise<Stretch>;

/** How long a hand that moves on is waited for, in ms. */
const MOVING = 80;

/** How many bars ahead are asked for. */
const BARS_AHEAD = 3;

/** The running order while it plays: what begins in each bar, asked for before it is due, and anew where it
 * has changed. A bar in which playing begins is asked for apart: what sounds already is struck there. */
export class Running {
  loop: { from: number; to: number } | null = null;
  private readonly bars = new Map<number, Chunk>();
  private begun: { at: number; chunk: Chunk } | null = null;
  private turn = 0;

  constructor(
    private readonly ask: Ask,
    readonly barTicks: number,
  ) {}

  /** Is told of lanes before they are due, so that what they sound with is ready. */
  ready: ((lanes: readonly RunningLane[]) => void) | null = null;

  /** Is told when it begins, in ms of the page's clock, before anything sounds. */
  begins: ((at: number) => void) | null = null;

  /** Is told that it is to go on from another tick. */
  leaps: ((tick: number) => void) | null = null;

  /** Is told when what begins in a bar may be another than it was. */
  renewed: (() => void) | null = null;

  /** Makes ready to begin at a tick. */
  async begin(tick: number): Promise<void> {
    const chunk = this.chunk(Number.POSITIVE_INFINITY);
    chunk.asked = ++this.turn;
    this.begun = { at: tick, chunk };
    this.fill(chunk, await this.asked(chunk, tick, true));
    this.ready?.(chunk.lanes);
    await this.fetch(Math.floor(tick / this.barTicks) + 1);
  }

  private readonly chunk = (unknown: number): Chunk => ({
    lanes: [],
    silences: [],
    stale: false,
    asked: 0,
    unknown,
    after: undefined,
  });

  /** Asks for what begins from a tick up to the next bar. */
  private async asked(chunk: Chunk, from: number, begin: boolean): Promise<Stretch> {
    const bar = Math.floor(from / this.barTicks);
    const { begun } = this;
    const before = begun && Math.floor(begun.at / this.barTicks) === bar - 1 ? begun.chunk : this.bars.get(bar - 1);
    const answer = this.ask(from, (bar + 1) * this.barTicks, begin, begin ? undefined : before?.after);
    chunk.after = answer.then(
      ({ zones }) => zones,
      () => [],
    );
    return answer;
  }

  private fill(chunk: Chunk, { lanes, silences }: Stretch): void {
    chunk.lanes = lanes;
    chunk.silences = silences;
  }

  /** What was asked for from a tick on has changed; in the bar before, what is early of it. */
  changed(tick: number): void {
    const { begun } = this;
    for (const [bar, chunk] of this.bars)
      if ((bar + 2) * this.barTicks > tick) {
        chunk.stale = true;
        chunk.unknown = Math.min(chunk.unknown, tick - this.barTicks / 2);
      }
    const end = begun ? (Math.floor(begun.at / this.barTicks) + 1) * this.barTicks : 0;
    if (begun && tick < end + this.barTicks) {
      const asked = ++this.turn;
      begun.chunk.asked = asked;
      begun.chunk.unknown = Math.min(begun.chunk.unknown, tick - this.barTicks / 2);
      void this.asked(begun.chunk, begun.at, true).then((stretch) => {
        if (begun.chunk.asked !== asked) return;
        this.fill(begun.chunk, stretch);
        begun.chunk.unknown = Number.POSITIVE_INFINITY;
        this.ready?.(stretch.lanes);
        this.renewed?.();
      });
    }
    const stale = [...this.bars].filter(([, chunk]) => chunk.stale).map(([bar]) => bar);
    for (const bar of stale.sort((a, b) => a - b)) void this.fetch(bar);
  }

  private moving: ReturnType<typeof setTimeout> | undefined;

  /** The same from where it is then, once a hand that moves on has rested for a moment. */
  stirred(tick: () => number): void {
    clearTimeout(this.moving);
    this.moving = setTimeout(() => this.changed(tick()), MOVING);
  }

  /** It plays no more. */
  end(): void {
    clearTimeout(this.moving);
  }

  private async fetch(bar: number): Promise<void> {
    const own = this.bars.get(bar) ?? { ...this.chunk(bar * this.barTicks), stale: true };
    this.bars.set(bar, own);
    if (!own.stale) return;
    const asked = ++this.turn;
    const again = own.after !== undefined;
    own.stale = false;
    own.asked = asked;
    try {
      const stretch = await this.asked(own, bar * this.barTicks, false);
      if (own.asked !== asked) return;
      this.fill(own, stretch);
      own.unknown = Number.POSITIVE_INFINITY;
      this.ready?.(stretch.lanes);
      if (again) this.renewed?.();
    } catch (problem) {
      if (own.asked !== asked) return;
      own.unknown = Number.POSITIVE_INFINITY; // what was known plays on
      this.failed?.(problem);
    }
  }

  /** Is told why what comes could not be had. */
  failed: ((problem: unknown) => void) | null = null;

  /** Up to where it is known what begins, from a tick of the order on, in its bar. */
  known(low: number): number {
    const chunk = this.chunkAt(low);
    return chunk ? chunk.unknown : low;
  }

  private chunkAt(low: number): Chunk | undefined {
    const bar = Math.floor(low / this.barTicks);
    if (this.begun && low >= this.begun.at && bar === Math.floor(this.begun.at / this.barTicks) && !this.loop)
      return this.begun.chunk;
    return this.bars.get(bar);
  }

  /** Asks for what comes after a tick, and forgets what is long past. */
  need(tick: number): void {
    const now = Math.floor(tick / this.barTicks);
    for (let bar = now; bar <= now + BARS_AHEAD; bar++) void this.fetch(bar);
    for (const bar of this.bars.keys()) if (bar < now - 1 && !this.loop) this.bars.delete(bar);
  }

  /** By how much unwrapped time is ahead of the order at a place, and until when. */
  place(tick: number): { ahead: number; until: number } {
    const { loop } = this;
    if (!loop || tick < loop.to) return { ahead: 0, until: loop ? loop.to : Number.POSITIVE_INFINITY };
    const length = loop.to - loop.from;
    const round = Math.floor((tick - loop.from) / length);
    return { ahead: round * length, until: loop.from + (round + 1) * length };
  }

  /** What may begin from a tick of the order up to another in the same bar. */
  lanes(low: number): readonly RunningLane[] {
    return this.chunkAt(low)?.lanes ?? [];
  }

  /** Where lanes fall silent from a tick of the order up to another in the same bar. */
  silences(low: number, high: number): Silence[] {
    return (this.chunkAt(low)?.silences ?? []).filter(({ tick }) => tick >= low && tick < high);
  }
}
