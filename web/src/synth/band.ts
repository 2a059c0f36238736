import { Lane } from "./lane";
import { Reverb } from "./parts/reverb";
import type { Act, Message } from "./protocol";
import { GRAIN, type Struck } from "./source";

/** By how many seconds what is struck may be late: of what has ended by then, no more than that is heard. */
const LATE = 0.05;

/** What comes first of what falls on one sample: notes are let go before others are struck, and what moves
 * a voice has moved it by then. */
const ranks = { silence: 0, rest: 0, let: 1, lift: 1, controller: 2, bend: 2, press: 2, strike: 3 } as const;

type Happening = { frame: number; lane: string } & ({ act: Act } | { let: Struck });

const rankOf = (h: Happening): number => ("act" in h ? ranks[h.act.do] : ranks.let);

const byTime = (a: Happening, b: Happening): number => a.frame - b.frame || rankOf(a) - rankOf(b);

const isStrike = (h: Happening): boolean => rankOf(h) === ranks.strike;
const isMove = (h: Happening): boolean => rankOf(h) === ranks.controller;

/** How many notes of all lanes sound at once at the most, those that have been let go among them. */
const MOST = 80;

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
  /** The room that all are in, or one of its own for each lane: they add up to the same. */
  private readonly rooms = new Map<string, Reverb>();
  private readonly sent = new Float32Array(GRAIN);
  /** Whether anything has been struck since it was looked whether too much sounds. */
  private struck = false;
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
    this.struck = true;
    this.add({ frame: end, lane: happening.lane, let: note });
  }

  /** Whether anything sounds, or is to. */
  get awake(): boolean {
    if (this.queue.length + this.news.length > 0) return true;
    return [...this.lanes.values(), ...this.rooms.values()].some((own) => own.awake);
  }

  /** How many notes sound. */
  get notes(): number {
    return [...this.lanes.values()].reduce((sum, lane) => sum + lane.count, 0);
  }

  /** The highest samples of the lanes since it was last asked. */
  peaks(): Record<string, number> {
    const out: Record<string, number> = {};
    for (const [id, lane] of this.lanes) {
      const peak = lane.peak();
      if (peak > 0) out[id] = peak;
    }
    return out;
  }

  /** Adds the next n samples, from a place in both on. apart: each lane by itself, and its room with it, where into
   * names other samples for it. */
  render(left: Float32Array, right: Float32Array, from: number, n: number, into?: Apart): void {
    this.take();
    for (let done = 0; done < n;) {
      let due = 0;
      while (due < this.queue.length && this.queue[due]!.frame <= this.frame) this.happen(this.queue[due++]!);
      this.queue.splice(0, due);
      const next = this.queue[0]?.frame ?? Number.POSITIVE_INFINITY;
      // Grains end at the same samples, in whatever pieces they are asked for.
      const grain = Math.min(n - done, GRAIN - (((this.frame % GRAIN) + GRAIN) % GRAIN), next - this.frame);
      this.sound({ left, right }, from + done, grain, into);
      for (const id of this.going)
        if (!this.lanes.get(id)?.awake) {
          this.lanes.delete(id);
          this.going.delete(id);
        }
      done += grain;
      this.frame += grain;
      if (this.struck) this.thin();
    }
  }

  /** Where more notes sound than can be worked out in time, lets some of those give way that are heard least. */
  private thin(): void {
    this.struck = false;
    let over = this.notes - MOST;
    if (over <= 0) return;
    // The fullest lanes give first.
    for (const lane of [...this.lanes.values()].sort((a, b) => b.count - a.count))
      if (over > 0) over -= lane.thin(over);
  }

  /** Adds a grain. */
  private sound(both: Sides, from: number, n: number, into?: Apart): void {
    const { sent } = this;
    if (into) {
      for (const [id, lane] of this.lanes) {
        if (!lane.awake && !this.rooms.get(id)?.awake) continue;
        const own = into(id);
        sent.fill(0, 0, n);
        const heard = lane.awake && lane.render({ ...own, room: sent }, from, n);
        if (heard || this.rooms.has(id)) this.roomOf(id).render(sent, n, heard, own.left, own.right, from);
      }
      return;
    }
    sent.fill(0, 0, n);
    const outputs = { ...both, room: sent };
    let heard = false;
    for (const lane of this.lanes.values()) if (lane.awake && lane.render(outputs, from, n)) heard = true;
    if (heard || this.rooms.size) this.roomOf(ALL).render(sent, n, heard, both.left, both.right, from);
  }

  private roomOf(lane: string): Reverb {
    let room = this.rooms.get(lane);
    if (!room) this.rooms.set(lane, (room = new Reverb(this.rate)));
    return room;
  }
}

/** The name of the room that all lanes are in together. */
const ALL = "";

interface Sides {
  left: Float32Array;
  right: Float32Array;
}

/** Where a lane's samples go instead. */
type Apart = (lane: string) => Sides;
