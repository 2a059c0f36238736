import { during } from "../underway";
import type { Rung } from "./gen/pitch.gen";
import type { KeyPreview } from "./gen/edit.gen";
import type { SetKey } from "./gen/op.gen";
import type { Op } from "./gen/schema.gen";
import type { Report } from "./gen/chord.gen";
import type { Board } from "./gen/chords.gen";
import type { Shape } from "./gen/phrase.gen";
import type {
  Card,
  CreateRequest,
  Explanation,
  FileReport,
  FileSummary,
  Fit,
  Kept,
  LaneStarter,
  OrderSeats,
  PlayedStretch,
  PlayRequest,
  SeatsRequest,
  Problem,
  ProgressionWord,
  Proposal,
  ProposeRequest,
  Sketching,
  StarterOffer,
  State,
  TakeRequest,
  TakenGroove,
  Version,
} from "./gen/server.gen";
import type { Gone, Summary } from "./gen/store.gen";
import type { Order, Thumb, Vocabulary } from "./gen/view.gen";

/** What the server said no to, with its own words. */
export class ApiError extends Error {
  readonly status: number;
  readonly problem: Problem;
  constructor(status: number, problem: Problem) {
    super(problem.words ?? problem.error);
    this.status = status;
    this.problem = problem;
  }
}

/** Bodies that go out as they are; all others as JSON. */
const asIs = (body: unknown): body is string | Blob => typeof body === "string" || body instanceof Blob;

async function send(method: string, path: string, body?: unknown, accept?: string): Promise<Response> {
  try {
    return await fetch(`/api${path}`, {
      method,
      headers: {
        ...(body === undefined || body instanceof Blob ? {} : { "Content-Type": "application/json" }),
        ...(accept ? { Accept: accept } : {}),
      },
      body: body === undefined || asIs(body) ? body : JSON.stringify(body),
    });
  } catch {
    throw new ApiError(0, { error: "The server cannot be reached. Is it still running?", path: "" });
  }
}

const brokeOff = () => new ApiError(0, { error: "The server's answer broke off.", path: "" });

async function textOf(response: Response): Promise<string> {
  try {
    return await response.text();
  } catch {
    throw brokeOff();
  }
}

/** What the server refused with. */
async function refusalOf(response: Response): Promise<ApiError> {
  const text = await textOf(response);
  try {
    return new ApiError(response.status, JSON.parse(text) as Problem);
  } catch {
    // Not from our server; the status has to do.
    return new ApiError(response.status, { error: `The server answered ${response.status}.`, path: "" });
  }
}

const call = <T>(method: string, path: string, body?: unknown): Promise<T> => during(asking<T>(method, path, body));

async function asking<T>(method: string, path: string, body?: unknown): Promise<T> {
  const response = await send(method, path, body);
  if (response.status === 204) return undefined as T;
  if (!response.ok) throw await refusalOf(response);
  return JSON.parse(await textOf(response)) as T;
}

/** The lines of an answer, each as soon as it is there. */
async function* linesOf(response: Response): AsyncGenerator<string> {
  const reader = response.body!.getReader();
  const decoder = new TextDecoder();
  let text = "";
  for (;;) {
    let part: ReadableStreamReadResult<Uint8Array>;
    try {
      part = await reader.read();
    } catch {
      throw brokeOff();
    }
    text += decoder.decode(part.value, { stream: !part.done });
    for (let end = text.indexOf("\n"); end >= 0; end = text.indexOf("\n")) {
      yield text.slice(0, end);
      text = text.slice(end + 1);
    }
    if (part.done) {
      if (text.trim()) yield text;
      return;
    }
  }
}

/** Asks for a change. Shown is told what it comes to as soon as that is known; the answer comes once it is kept. */
const change = (path: string, body: unknown, shown: (state: State) => void): Promise<Kept> =>
  during(changing(path, body, shown));

async function changing(path: string, body: unknown, shown: (state: State) => void): Promise<Kept> {
  const response = await send("POST", path, body, "application/jsonl");
  if (!response.ok) throw await refusalOf(response);
  let first: State | null = null;
  for await (const line of linesOf(response)) {
    if (!first) {
      first = JSON.parse(line) as State;
      shown(first);
      continue;
    }
    const kept = JSON.parse(line) as Kept;
    if (kept.problem) throw new ApiError(kept.status ?? 500, kept.problem);
    return kept;
  }
  if (first?.version) return first; // it was kept before it was shown
  throw brokeOff();
}

/** What a MIDI file should hold. */
export interface FileOrder {
  clip: string;
  lanes: string[];
  bars?: number;
  until?: string;
  ppq: number;
  type: number;
  /** Whether the names of the chords are written in. */
  names: boolean;
}

function fileQuery(order: FileOrder): string {
  const query = new URLSearchParams({ ppq: String(order.ppq), type: String(order.type), lanes: order.lanes.join(",") });
  query.set("names", order.names ? "yes" : "no");
  if (order.bars) query.set("bars", String(order.bars));
  if (order.until) query.set("until", order.until);
  return query.toString();
}

const asked = (ask: TakeRequest, more: Record<string, string> = {}) =>
  new URLSearchParams({ ask: JSON.stringify(ask), ...more }).toString();

/** What one holds of a piece when a change of it is asked for. */
export interface Held {
  id: string;
  version: number;
  clip: string;
  /** By which the server knows it. */
  sum: string;
  /** The clips that are held whole beside the one that is open. */
  also: readonly string[];
}

const asHeld = (key: string, at: Held) => ({
  key,
  version: at.version,
  clip: at.clip,
  holds: { sum: at.sum, also: at.also },
});

const piece = (id: string) => `/pieces/${encodeURIComponent(id)}`;
const clip = (id: string, clipId: string) => `${piece(id)}/clips/${encodeURIComponent(clipId)}`;

export const api = {
  words: () => call<Vocabulary>("GET", "/words"),
  key: (name: string) => call<Report>("GET", `/key?name=${encodeURIComponent(name)}`),
  list: () => call<Summary[]>("GET", "/pieces"),
  create: (request: CreateRequest) => call<State>("POST", "/pieces", request),
  importDocument: (text: string) => call<State>("POST", "/pieces/import", text),
  openDemo: () => call<State>("POST", "/pieces/demo"),
  open: (id: string, clipId: string, also: readonly string[] = []) =>
    call<State>("GET", `${piece(id)}?${new URLSearchParams({ clip: clipId, also: also.join(" ") })}`),
  remove: (id: string) => call<void>("DELETE", piece(id)),
  deleted: (what: "pieces" | "starters") => call<Gone[]>("GET", `/deleted/${what}`),
  bringBack: (what: "pieces" | "starters", id: string) =>
    call<unknown>("POST", `/deleted/${what}/${encodeURIComponent(id)}`),
  edit: (key: string, at: Held, ops: Op[], shown: (state: State) => void) =>
    change(`${piece(at.id)}/edits`, { ...asHeld(key, at), ops }, shown),
  // What is tried is shown and heard while a hand moves: it holds up no gesture.
  draft: (at: Held, ops: Op[]) => asking<State>("POST", `${piece(at.id)}/drafts`, { ...asHeld("", at), ops }),
  walk: (key: string, at: Held, way: "undo" | "redo", shown: (state: State) => void) =>
    change(`${piece(at.id)}/${way}`, asHeld(key, at), shown),
  previewKey: (id: string, op: SetKey) => call<KeyPreview>("POST", `${piece(id)}/key-preview`, { op }),
  thumbs: (id: string) => call<Thumb[]>("GET", `${piece(id)}/thumbs`),
  // What is only read beside the sheet holds up no gesture.
  why: (id: string, clipId: string, lane: string, note: number) =>
    asking<Explanation>("GET", `${clip(id, clipId)}/why?lane=${encodeURIComponent(lane)}&note=${note}`),
  progression: (id: string, clipId: string, text: string) =>
    call<ProgressionWord[]>("GET", `${clip(id, clipId)}/progression?text=${encodeURIComponent(text)}`),
  board: (id: string, clipId: string, lane: string, step: number) =>
    call<Board>("GET", `${clip(id, clipId)}/board?lane=${encodeURIComponent(lane)}&step=${step}`),
  orders: (id: string, clipId: string, lane: string) =>
    call<Shape[]>("GET", `${clip(id, clipId)}/orders?lane=${encodeURIComponent(lane)}`),
  proposals: (id: string, clipId: string, ask: ProposeRequest) =>
    call<Proposal[]>("POST", `${clip(id, clipId)}/proposals`, ask),
  tempers: (id: string, clipId: string, lane: string, free: { rate: string; bars: number } | null) =>
    call<Sketching>(
      "GET",
      `${clip(id, clipId)}/tempers?${new URLSearchParams({ lane, ...(free ? { rate: free.rate, bars: String(free.bars) } : {}) })}`,
    ),
  saveTemper: (name: string, dials: unknown) => call<void>("POST", "/tempers", { name, dials }),
  removeTemper: (name: string) => call<void>("DELETE", `/tempers?name=${encodeURIComponent(name)}`),
  versions: (id: string, clipId: string, base = "") =>
    call<Version[]>("GET", `${clip(id, clipId)}/versions${base && `?with=${encodeURIComponent(base)}`}`),
  card: (id: string) => call<Card>("GET", `/pieces/${encodeURIComponent(id)}/card`),
  keyboard: (id: string, clipId: string) => call<Rung[]>("GET", `${clip(id, clipId)}/keyboard`),
  starters: (id: string, clipId: string, kind: string) =>
    call<StarterOffer[]>("GET", `${clip(id, clipId)}/starters?kind=${encodeURIComponent(kind)}`),
  laneStarter: (id: string, clipId: string, lane: string, as: { name?: string; copy?: boolean } = {}) => {
    const query = new URLSearchParams({ lane });
    if (as.name) query.set("name", as.name);
    if (as.copy) query.set("copy", "yes");
    return call<LaneStarter>("GET", `${clip(id, clipId)}/starter?${query}`);
  },
  fits: (id: string, clipId: string, document: unknown) => call<Fit>("POST", `${clip(id, clipId)}/fits`, document),
  saveStarter: (text: string, over: boolean) => call<unknown>("POST", `/starters${over ? "?over=yes" : ""}`, text),
  removeStarter: (name: string) => call<void>("DELETE", `/starters?name=${encodeURIComponent(name)}`),
  groove: (file: File) =>
    call<TakenGroove>("POST", `/groove?name=${encodeURIComponent(file.name.replace(/\.midi?$/i, ""))}`, file),
  report: (file: File, ask: TakeRequest) => call<FileReport>("POST", `/files/report?${asked(ask)}`, file),
  takeNew: (file: File, ask: TakeRequest) => call<State>("POST", `/files/piece?${asked(ask)}`, file),
  takeInto: (key: string, at: Held, file: File, ask: TakeRequest, shown: (state: State) => void) =>
    change(`${piece(at.id)}/take?${asked(ask, { key, version: String(at.version), clip: at.clip })}`, file, shown),
  summary: (id: string, order: FileOrder) =>
    call<FileSummary>("GET", `${clip(id, order.clip)}/summary?${fileQuery(order)}`),
  fileUrl: (id: string, order: FileOrder) => `/api${clip(id, order.clip)}/midi?${fileQuery(order)}`,
  order: (id: string) => call<Order>("GET", `${piece(id)}/order`),
  // What is played is asked for all the time: nobody waits for it.
  playOrder: (id: string, ask: PlayRequest) => asking<PlayedStretch>("POST", `${piece(id)}/order/play`, ask),
  seatOrder: (id: string, ask: SeatsRequest) => asking<OrderSeats>("POST", `${piece(id)}/order/seats`, ask),
  orderSummary: (id: string, query: string) => call<FileSummary>("GET", `${piece(id)}/order/summary?${query}`),
  orderUrl: (id: string, query: string) => `/api${piece(id)}/order/midi?${query}`,
  documentUrl: (id: string) => `/api${piece(id)}/document`,
};
