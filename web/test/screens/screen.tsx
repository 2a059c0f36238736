import "@testing-library/jest-dom/vitest";
import { MantineProvider } from "@mantine/core";
import { QueryClientProvider } from "@tanstack/react-query";
import { configure, cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactElement } from "react";
import { afterEach, beforeEach, vi } from "vitest";
import { queries } from "../../src/api/queries";
import type { Lane, Op } from "../../src/api/gen/schema.gen";
import type { State } from "../../src/api/gen/server.gen";
import type { Lane as LaneView, Vocabulary } from "../../src/api/gen/view.gen";
import { useSheet } from "../../src/state/sheet";
import { clipOf, laneOf, laneViewOf, useApp } from "../../src/state/store";

/** What is waited for comes when it comes: only the test as a whole has a deadline. */
configure({ asyncUtilTimeout: 60_000 });

/** What the server answers, kept fresh by its own tests. */
const answers = import.meta.glob("../answers/*.json", { eager: true, import: "default" });

export function answer<T>(name: string): T {
  return structuredClone(answers[`../answers/${name}.json`]) as T;
}

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

/** All that was asked of the server, in order. */
export const asked: Asked[] = [];

/** Answers by the beginning of "METHOD /path"; the longest that fits counts. A number is a
 * refusal with that status, a text the answer as it is. */
const replies = new Map<string, unknown>();
export const reply = (to: string, given: unknown): void => void replies.set(to, given);

/** The ops of all edits that were sent. */
export const sent = (): Op[] =>
  asked.filter((a) => a.path.endsWith("/edits")).flatMap((a) => (a.body as { ops: Op[] }).ops);

const first = useApp.getState();

beforeEach(() => {
  asked.length = 0;
  replies.clear();
  queries.clear();
  useApp.setState(first, true);
  useSheet.setState({ settings: true });
  reply("GET /key", answer("key"));
  vi.stubGlobal("fetch", async (url: string, options: { method?: string; body?: unknown } = {}) => {
    const path = url.replace(/^\/api/, "");
    const method = options.method ?? "GET";
    asked.push({ method, path, body: typeof options.body === "string" ? JSON.parse(options.body) : options.body });
    const at = [...replies.keys()].filter((k) => `${method} ${path}`.startsWith(k)).sort((a, b) => b.length - a.length);
    const none = path.endsWith("/keyboard") ? [] : stateNow();
    const given = at[0] === undefined ? none : replies.get(at[0]);
    if (typeof given === "number")
      return new Response(JSON.stringify({ error: "refused", path: "" }), { status: given });
    return new Response(typeof given === "string" ? given : JSON.stringify(given));
  });
  vi.stubGlobal("matchMedia", () => ({ matches: false, addEventListener: () => {}, removeEventListener: () => {} }));
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  vi.stubGlobal(
    "IntersectionObserver",
    class {
      private readonly tell: (entries: { isIntersecting: boolean; target: Element }[]) => void;
      constructor(tell: (entries: { isIntersecting: boolean; target: Element }[]) => void) {
        this.tell = tell;
      }
      observe(target: Element) {
        this.tell([{ isIntersecting: true, target }]);
      }
      unobserve() {}
      disconnect() {}
    },
  );
  HTMLCanvasElement.prototype.getContext = () => null;
  Element.prototype.scrollIntoView = () => {};
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/** The state that is open, one version on: as after any edit. */
function stateNow(): State {
  const { id, version, undo, redo, shown, piece, view } = useApp.getState();
  return { id, version: version + 1, undo, redo, sum: "", others: false, ...shown!, piece: piece!, view };
}

/** Opens a clip of the sample piece, with one of its lanes. */
export function open(clip: string, lane?: string): { lane: Lane; view: LaneView } {
  useApp.setState({ words: answer<Vocabulary>("words") });
  useApp.getState().take(answer<State>(clip));
  if (lane) useApp.getState().goTo(lane);
  return { lane: laneOf(useApp.getState())!, view: laneViewOf(useApp.getState())! };
}

export const clipNow = () => clipOf(useApp.getState())!;

/** Shows a part of the page to a person, who is returned. */
export function show(part: ReactElement) {
  const person = userEvent.setup();
  const around = (inner: ReactElement) => (
    <MantineProvider env="test">
      <QueryClientProvider client={queries}>{inner}</QueryClientProvider>
    </MantineProvider>
  );
  const shown = render(around(part));
  return { person, again: (next: ReactElement) => shown.rerender(around(next)) };
}

export const button = (name: string | RegExp) => screen.getByRole("button", { name });
export const field = (name: string | RegExp) => screen.getByLabelText(name);
