/** A lane as the layout sees it. */
export interface Placed {
  id: string;
  /** Heights of its band, in pixels: closed, and at least and at most when open. */
  closed: number;
  least: number;
  most: number;
  open: boolean;
  /** The height it was dragged to; null: none. */
  dragged: number | null;
}

/** The height of each lane's band. Open lanes that were not dragged share the
 * height that is left, each within what it needs and what suits it. */
export function heights(lanes: readonly Placed[], room: number): Map<string, number> {
  const out = new Map<string, number>();
  let left = room;
  let sharing: Placed[] = [];
  const give = (lane: Placed, height: number) => {
    out.set(lane.id, height);
    left -= height;
  };
  for (const lane of lanes) {
    if (lane.open && lane.dragged === null) sharing.push(lane);
    else give(lane, lane.open ? Math.max(lane.dragged ?? 0, lane.least) : lane.closed);
  }
  // Who needs more than an even share, or wants less, is served first; the others
  // share what is left then.
  while (sharing.length) {
    const share = Math.floor(left / sharing.length);
    const needy = sharing.filter((l) => l.least > share);
    const served = needy.length ? needy : sharing.filter((l) => l.most < share);
    if (!served.length) {
      for (const lane of sharing) out.set(lane.id, share);
      break;
    }
    for (const lane of served) give(lane, needy.length ? lane.least : lane.most);
    sharing = sharing.filter((l) => !served.includes(l));
  }
  return out;
}

/** The least width of a step at which it can be read, and at which it is easily hit, in pixels. */
const READABLE = 7;
const HITTABLE = 12;
/** The same of lanes that are only looked at. */
const SEEN = 3;

/** How many bars are shown at first: all of a clip that can be read so, else as many as leave
 * the steps wide enough to be hit. */
export function firstBars(
  bars: number,
  barTicks: number,
  shortestStep: number,
  width: number,
  reading = false,
): number {
  const fit = (width / (reading ? SEEN : HITTABLE)) * (shortestStep / barTicks);
  if (bars * (barTicks / shortestStep) * (reading ? SEEN : READABLE) <= width) return bars;
  return Math.max(Math.min(bars, Math.max(Math.floor(fit), 1)), 1 / 64);
}
