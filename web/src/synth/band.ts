import { Lane } from "./lane";
import type { Act, Message } from "./protocol";
import { GRAIN, type Struck } from "./source";

/** By how many seconds what is struck may be late: of what has ended by then, no more than that is heard. */
const LATE = 0.05;

/** What comes first of what falls on one sample: notes are let go before others are struck, and what moves
 * a voice has moved it by then. */
const ranks = { silence: 0, rest: 0, let: 1, controller: 2, bend: 2, press: 2, strike: 3 } as const;

type Happening = { frame: number; lane: string } & ({ act: Act } | { let: Struck });

const rankOf = (h: Happening): number => ("act" in h ? ranks[h.act.do] : ranks.let);

const byTime = (a: Happening, b: Happening): number => a.frame - b.frame || rankOf(a) - rankOf(b);

const isStrike = (h: Happening): boolean => rankOf(h) === ranks.strike;
const isMove = (h: Happening): boolean => rankOf(h) === ranks.controller;

/** How many come in one by one; more are put in order at once. */
const FEW = 8;

/**
 * All lanes that sound. It is told what happens before it is due, and works out samples one after another: the
 * same happenings give the same samples, for the loudspeakers and for a file.
 */
export class Band {
  private readonly lanes = new Map<string, Lane>();
  /** Lanes that are forgotten once they are not heard any more. */
  private readonly going = new Set<string>();
  /** What is to come, in order. */
  private queue: Happening[] = [];
  /** What has been told since, in the order in which it was. */
  private news: Happening[] = [];
  /** The sample that is worked out next, by which it is known what is due. Whoever follows another clock sets it. */
  frame = 0;

  constructor(private readonly rate: number) {}

  tell(message: Message): void {
    const { lane } = message;
    if ("timbre" in message) {
      const own = this.lanes.get(lane);
      this.going.delete(lane);
      if (own) own.set(message.timbre);
      else this.lanes.set(lane, new Lane(this.rate, message.timbre));
    } else if ("act" in message) {
      const due = Math.round(message.at * this.rate);
      const frame = due > this.frame ? due : this.frame; // what is no time is due now
      // What was to be struck after it falls silent is not wanted any more, nor what moves it after it is at rest.
      if (message.act.do === "silence" || message.act.do === "rest") {
        const gone = message.act.do === "silence" ? isStrike : isMove;
        this.drop((h) => h.lane === lane && h.frame >= frame && gone(h));
      }
      this.news.push({ frame, lane, act: message.act });
    } else {
      this.drop((h) => h.lane === lane);
      this.lanes.get(lane)?.silence();
      this.lanes.get(lane)?.rest();
      this.going.add(lane);
    }
  }

  private drop(which: (h: Happening) => boolean): void {
    this.queue = this.queue.filter((h) => !which(h));
    this.news = this.news.filter((h) => !which(h));
  }

  /** Puts what has been told among what is to come. */
  private take(): void {
    const news = this.news.splice(0);
    if (news.length <= FEW) {
      for (const happening of news) this.add(happening);
      return;
    }
    this.queue = [...this.queue, ...news].sort(byTime); // of those at once the older come first: the sort is stable
  }

  private add(happening: Happening): void {
    const { queue } = this;
    const rank = rankOf(happening);
    let k = queue.length;
    while (
      k > 0 &&
      (queue[k - 1]!.frame > happening.frame ||
        (queue[k - 1]!.frame === happening.frame && rankOf(queue[k - 1]!) > rank))
    )
      k--;
    queue.splice(k, 0, happening);
  }

  private happen(happening: Happening): void {
    const lane = this.lanes.get(happening.lane);
    if (!lane) return;
    if ("let" in happening) {
      lane.let(happening.let);
      return;
    }
    const { act } = happening;
    if (act.do !== "strike") {
      lane.act(act);
      return;
    }
    const over = Math.round(act.end * this.rate);
    const end = over > happening.frame ? over : happening.frame + 1;
    if (end <= this.frame && this.frame - happening.frame > LATE * this.rate) return;
    const note = { midi: act.midi, velocity: act.velocity, slides: act.slides ?? [] };
    lane.strike(note);
    this.add({ frame: end, lane: happening.lane, let: note });
  }

  /** Whether anything sounds, or is to. */
  get awake(): boolean {
    return this.queue.length + this.news.length > 0 || [...this.lanes.values()].some((lane) => lane.awake);
  }

  /** Adds the next n samples, from a place in both on; a lane's alone, where one is named. */
  render(left: Float32Array, right: Float32Array, from: number, n: number, into?: Outputs): void {
    this.take();
    for (let done = 0; done < n;) {
      let due = 0;
      while (due < this.queue.length && this.queue[due]!.frame <= this.frame) this.happen(this.queue[due++]!);
      this.queue.splice(0, due);
      const next = this.queue[0]?.frame ?? Number.POSITIVE_INFINITY;
      const grain = Math.min(n - done, GRAIN, next - this.frame);
      for (const [id, lane] of this.lanes) {
        if (!lane.awake) continue;
        const own = into?.(id);
        lane.render(own?.left ?? left, own?.right ?? right, from + done, grain);
      }
      for (const id of this.going)
        if (!this.lanes.get(id)?.awake) {
          this.lanes.delete(id);
          this.going.delete(id);
        }
      done += grain;
      this.frame += grain;
    }
  }
}

/** Where a lane's samples go instead. */
type Outputs = (lane: string) => { left: Float32Array; right: Float32Array };
