import { api } from "../api/client";
import type { Played } from "../api/gen/op.gen";
import type { OrderSeat } from "../api/gen/server.gen";
import type { Held } from "../api/gen/order.gen";
import type { Control } from "../api/gen/view.gen";
import { portsOf, seat, senderOf } from "../ports/routes";
import { message, useApp } from "../state/store";

/** What the ports are told of the order that plays: the zones as they begin, and what announces them. */
let lanes: readonly OrderSeat[] = [];
let zones: readonly Held[] = [];
let setup: readonly Control[] = [];
let key = "";
/** Which asking is the newest: the answer to an older one comes too late. */
let asked = 0;

/** What announces zones is sent as if by a lane of its own. */
const ZONES = "the zones";

/** Takes the channels that a file of an order has, where a port wants them; tells whether they are others than
 * before. performed: lanes stay on those that they have. */
export async function takeSeats(piece: string, played: Played[], performed: boolean): Promise<boolean> {
  const before = key;
  const turn = ++asked;
  if (!portsOf(piece).length) {
    leaveSeats();
    return key !== before;
  }
  try {
    const own = await api.seatOrder(piece, { played, ...(performed ? { kept: [...lanes] } : {}) });
    if (turn !== asked) return false;
    key = JSON.stringify(own);
    if (performed) {
      const out = lanes.filter((l) => !own.lanes.some((o) => o.clip === l.clip && o.lane === l.lane));
      own.lanes.push(...out); // a lane that rests comes back on its channel
    }
    lanes = own.lanes;
    zones = own.zones;
    setup = own.setup;
    seat(new Map(lanes.map((l) => [`${l.clip}/${l.lane}`, l.channel])));
  } catch (problem) {
    useApp.getState().set({ error: `The ports keep the channels that they have: ${message(problem)}.` });
  }
  return key !== before;
}

/** Lets lanes have the channels of their clips again. */
export function leaveSeats(): void {
  asked++;
  lanes = [];
  zones = [];
  setup = [];
  key = "";
  seat(new Map());
}

/** The zones as they stand after a stretch, if they are the ones that are played by; else as they begin. */
export function zonesAfter(held: readonly Held[] | undefined): Held[] {
  const same = held?.length === zones.length && held.every((h, i) => shapeOf(h) === shapeOf(zones[i]!));
  return [...(same ? held : zones)];
}

const shapeOf = (h: Held): string => `${h.upper} ${h.range} ${h.members.length}`;

/** Whether zones are played by. */
export const hasZones = (): boolean => zones.length > 0;

/** Announces the zones on each port that a piece's lanes are sent to. */
export function announce(piece: string, at: number): void {
  for (const id of portsOf(piece))
    for (const c of setup) senderOf(id)?.control(ZONES, c.channel ?? 1, at, c.controller, c.value);
}
