import { create } from "zustand";
import { keep as keepHere, recalled } from "../kept";
import { Sender } from "./sender";
import type { OutPort } from "./port";
import { standIn } from "./standin";

/** Where a lane sounds: the built-in voice, a port, or both. */
export interface Route {
  voice: boolean;
  /** The port's id; empty: none. */
  port: string;
  /** The channel there; 0: the lane's own. */
  channel: number;
}

export const usual: Route = { voice: true, port: "", channel: 0 };

/** What is remembered on this machine. */
interface Kept {
  /** By pieces: where their lanes sound that say nothing else. */
  pieces: Readonly<Record<string, Route>>;
  /** By piece, clip and lane. */
  lanes: Readonly<Record<string, Route>>;
  /** By ports: by how many ms what is sent there is later. */
  delays: Readonly<Record<string, number>>;
  /** Ports that get the clock. */
  clocked: readonly string[];
  /** The port whose clock is followed; empty: none. */
  follows: string;
  /** What ports that were chosen are called, so that one that is gone can be told. */
  names: Readonly<Record<string, string>>;
}

interface Ports extends Kept {
  outs: readonly OutPort[];
  ins: readonly { id: string; name: string }[];
  /** Whether the browser's own ports were asked for. */
  asked: boolean;
}

const KEPT = "agrimony ports";

const none: Kept = { pieces: {}, lanes: {}, delays: {}, clocked: [], follows: "", names: {} };

export const usePorts = create<Ports>(() => ({
  ...none,
  ...recalled<Partial<Kept>>(KEPT, {}),
  outs: [standIn],
  ins: [],
  asked: false,
}));

/** Changes what is remembered. */
export function keep(change: Partial<Kept>): void {
  usePorts.setState(change);
  const { pieces, lanes, delays, clocked, follows, names } = usePorts.getState();
  keepHere(KEPT, JSON.stringify({ pieces, lanes, delays, clocked, follows, names }));
  for (const [id, sender] of senders) sender.delay = delays[id] ?? 0;
}

/** Where a lane is: its piece, its clip and its id. */
export const placeOf = (piece: string, clip: string, lane: string): string => `${piece}/${clip}/${lane}`;

/** Where a lane sounds, by its place. */
export function routeOf(place: string): Route {
  const { pieces, lanes } = usePorts.getState();
  return lanes[place] ?? pieces[place.slice(0, place.indexOf("/"))] ?? usual;
}

const senders = new Map<string, Sender>();

/** Who sends to a port; null: it is not there. */
export function senderOf(id: string): Sender | null {
  const { outs, delays } = usePorts.getState();
  const port = id ? outs.find((p) => p.id === id) : undefined;
  if (!port) return null;
  let own = senders.get(id);
  if (own?.port !== port) senders.set(id, (own = new Sender(port, () => performance.now(), delays[id] ?? 0)));
  pumping ??= setInterval(() => pumpAll(performance.now() + earliest() + LEAST_AHEAD), PUMP);
  return own;
}

/** How often what comes due is sent while nothing plays that does it, in ms. */
const PUMP = 50;
let pumping: ReturnType<typeof setInterval> | undefined;

/** Sends on every port what is due up to a time, in ms of the page's clock, before the delays. */
export const pumpAll = (until: number): void => senders.forEach((s) => s.pump(until));

/** Forgets what a port that is gone was sent. */
export const forget = (id: string): boolean => senders.delete(id);

/** The ports that a piece's lanes are sent to. */
export function portsOf(piece: string): string[] {
  const { pieces, lanes } = usePorts.getState();
  const own = Object.keys(lanes).filter((place) => place.startsWith(`${piece}/`));
  return [...new Set([pieces[piece], ...own.map((place) => lanes[place])].flatMap((r) => r?.port || []))];
}

/** The channels of lanes while the running order plays, by clip and lane; else they are those of their clips. */
let seats: ReadonlyMap<string, number> = new Map();

export const seat = (given: ReadonlyMap<string, number>): void => void (seats = given);

/** The channel on which a lane's messages go. A lane whose notes glide apart takes the zone that the port has. */
export const channelOf = (place: string, route: Route, own: number, apart: boolean): number =>
  (!apart && route.channel) || seats.get(place.slice(place.indexOf("/") + 1)) || own;

/** How long before it sounds a message is sent at least, in ms. */
const LEAST_AHEAD = 100;

/** By how much earlier than for the built-in voices all is scheduled, in ms, for ports to get it ahead of time. */
export const earliest = (): number => {
  const { pieces, lanes, delays, outs, clocked } = usePorts.getState();
  const used = new Set([...Object.values(pieces), ...Object.values(lanes)].map((r) => r.port).concat(clocked));
  const own = outs.filter((p) => used.has(p.id)).map((p) => -(delays[p.id] ?? 0));
  return own.length ? LEAST_AHEAD + Math.max(0, ...own) : 0;
};

/** Ends all that was begun on any port. */
export const stopAll = (): void => senders.forEach((s) => s.stop());

/** Ends everything on every port, whoever began it. */
export function allQuiet(): void {
  for (const { id } of usePorts.getState().outs) senderOf(id)?.quiet();
}

globalThis.addEventListener?.("pagehide", stopAll);
