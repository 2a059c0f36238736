import type { Played } from "../api/gen/op.gen";

/** A clip in the order as it is played: open until somebody takes it out. */
export interface Live extends Played {
  open?: boolean;
}

/** How far an open clip is taken to last: longer than anyone plays. */
export const OPEN_BARS = 4096;

export const endOf = (e: Live): number => (e.open ? Number.POSITIVE_INFINITY : e.at + e.for);

/** What of a clip sounds at a time. */
export const at = (list: readonly Live[], clip: string, tick: number): Live | undefined =>
  list.find((e) => e.clip === clip && e.at <= tick && tick < endOf(e));

/** The next boundary at or after a time. */
export const boundary = (tick: number, unit: number): number => Math.ceil(tick / unit) * unit;

const cut = (e: Live, tick: number): Live[] =>
  tick <= e.at ? [] : [{ ...e, for: tick - e.at, open: false, ring: false }];

/** Brings a clip in at a time, until it is taken out; or takes it out, where it sounds. What waits is taken
 * back by the same. */
export function turn(list: readonly Live[], clip: string, tick: number): Live[] {
  const sounding = at(list, clip, tick);
  if (sounding) return list.flatMap((e) => (e === sounding ? cut(e, tick) : [e]));
  const waits = list.find((e) => e.clip === clip && !e.open && e.at + e.for === tick && e.at < tick);
  const before = list.filter((e) => e.clip !== clip || endOf(e) <= tick);
  if (waits) return before.map((e) => (e === waits ? { ...e, open: true } : e));
  return [...before, { clip, at: tick, for: 1, open: true }];
}

/** Brings a clip in at a time, where it does not sound. */
export const come = (list: readonly Live[], clip: string, tick: number): Live[] =>
  at(list, clip, tick) ? [...list] : turn(list, clip, tick);

/** Takes a clip out at a time, and what of it waits until somebody takes it out. */
export function go(list: readonly Live[], clip: string, tick: number): Live[] {
  const sounding = at(list, clip, tick);
  return list.flatMap((e) => {
    if (e === sounding) return cut(e, tick);
    return e.clip === clip && e.open && e.at > tick ? [] : [e];
  });
}

/** Lets one clip of a group sound from a time on, and none of the others. */
export const choose = (list: readonly Live[], group: readonly string[], clip: string, tick: number): Live[] =>
  come(
    group.filter((own) => own !== clip).reduce<readonly Live[]>((all, own) => go(all, own, tick), list),
    clip,
    tick,
  );

/** Lets one clip sound alone from a time on. */
export function only(list: readonly Live[], clip: string, tick: number): Live[] {
  const rest = list.flatMap((e) => (e.clip !== clip && e.at <= tick && tick < endOf(e) ? cut(e, tick) : [e]));
  return at(rest, clip, tick) ? rest : turn(rest, clip, tick);
}

/** Changes what sounds of a clip from a time on; it goes on where it is. */
function from(list: readonly Live[], clip: string, tick: number, change: (e: Live) => Partial<Live>): Live[] {
  const sounding = at(list, clip, tick);
  if (!sounding) return [...list];
  return list.flatMap((e) => {
    if (e !== sounding) return [e];
    if (e.at === tick) return [{ ...e, ...change(e) }];
    return [...cut(e, tick), { ...e, at: tick, for: e.open ? 1 : e.at + e.for - tick, goesOn: true, ...change(e) }];
  });
}

/** Mutes a lane of a clip, or lets it be heard again, from a time on. */
export const mute = (list: readonly Live[], clip: string, lane: string, tick: number): Live[] =>
  from(list, clip, tick, (e) => {
    const was = e.mute ?? [];
    return { mute: was.includes(lane) ? was.filter((l) => l !== lane) : [...was, lane] };
  });

/** Moves a clip along its scale from a time on. */
export const shift = (list: readonly Live[], clip: string, by: number, tick: number): Live[] =>
  from(list, clip, tick, () => ({ shift: by }));

/** Ends what is open at a time. */
export const ended = (list: readonly Live[], tick: number): Live[] =>
  list.flatMap((e) => (e.open ? cut(e, tick) : [e]));

/** The same as the server takes it, in whole ticks; what is open lasts up to a time. */
export const sent = (list: readonly Live[], until: number): Played[] =>
  list.map(({ open, ...e }) => (open ? { ...e, for: Math.max(Math.ceil(until) - e.at, 1) } : e));

/** From when on two lists are not the same: what is scheduled before may stay. */
export function differsFrom(a: readonly Live[], b: readonly Live[]): number {
  const key = (e: Live) =>
    JSON.stringify([e.clip, e.at, e.mute ?? [], e.shift ?? 0, e.from ?? 0, e.pass ?? 0, e.goesOn ?? false]);
  let first = Number.POSITIVE_INFINITY;
  const meet = (own: readonly Live[], other: readonly Live[]) => {
    const known = new Map(other.map((e) => [key(e), e]));
    for (const e of own) {
      const twin = known.get(key(e));
      first = Math.min(first, twin ? (endOf(twin) === endOf(e) ? first : Math.min(endOf(twin), endOf(e))) : e.at);
    }
  };
  meet(a, b);
  meet(b, a);
  return first;
}
