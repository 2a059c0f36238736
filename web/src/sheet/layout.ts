/** A lane as the layout sees it. */
export interface Placed {
  id: string;
  /** Heights of its band, in pixels: closed, and at least when open. */
  closed: number;
  least: number;
  open: boolean;
  /** The height it was dragged to; null: none. */
  dragged: number | null;
}

/** The height of each lane's band. Open lanes that were not dragged share the
 * height that is left, none of them less than it needs. */
export function heights(lanes: readonly Placed[], room: number): Map<string, number> {
  const out = new Map<string, number>();
  let left = room;
  let sharing = lanes.filter((l) => l.open && l.dragged === null);
  for (const lane of lanes) {
    if (sharing.includes(lane)) continue;
    const height = lane.open ? Math.max(lane.dragged ?? 0, lane.least) : lane.closed;
    out.set(lane.id, height);
    left -= height;
  }
  // Who needs more than an even share takes what it needs; the others share the rest.
  for (let again = true; again && sharing.length;) {
    const share = Math.floor(left / sharing.length);
    const needy = sharing.filter((l) => l.least > share);
    again = needy.length > 0;
    for (const lane of needy) {
      out.set(lane.id, lane.least);
      left -= lane.least;
    }
    sharing = sharing.filter((l) => !needy.includes(l));
    if (!again) for (const lane of sharing) out.set(lane.id, share);
  }
  return out;
}

/** The least width of a step at which it can be hit, in pixels. */
const HITTABLE = 14;

/** How many bars are shown at first: all of a clip that fits, else as many as leave
 * the steps wide enough to be hit. */
export function firstBars(bars: number, barTicks: number, shortestStep: number, width: number): number {
  const fit = (width / HITTABLE) * (shortestStep / barTicks);
  return Math.max(Math.min(bars, Math.max(Math.floor(fit), 1)), 1 / 64);
}
