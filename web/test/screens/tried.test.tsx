// @vitest-environment jsdom
import { cleanup, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, test, vi } from "vitest";
import type { Op } from "../../src/api/gen/schema.gen";
import type { State } from "../../src/api/gen/server.gen";
import { RhythmDials } from "../../src/sheet/RhythmDials";
import { useApp, whileHeld } from "../../src/state/store";
import { keptOf } from "../../src/state/tried";
import { answer, asked, button, field, open, sent, show } from "./screen";

const app = useApp.getState;

/** A server that knows a piece by its title alone, and refuses what is not of the version and sum that it gave out. */
class Titles {
  version = 1;
  title = "Kept 0";
  private readonly first = answer<State>("keel");
  private readonly rests: () => Promise<void>;
  constructor(rests: () => Promise<void>) {
    this.rests = rests;
  }
  state(title: string, sum: string): State {
    const { first } = this;
    return { ...first, version: this.version, sum, piece: { ...first.piece!, title } };
  }
  readonly answer = async (url: string, { body }: { body: string }): Promise<Response> => {
    await this.rests();
    const asked = JSON.parse(body) as { version: number; holds: { sum: string }; ops: { patch: { title: string } }[] };
    if (asked.version !== this.version || asked.holds.sum !== `sum ${this.version}`)
      return new Response(JSON.stringify({ error: `asked of ${body}`, path: "" }), { status: 500 });
    const { title } = asked.ops.at(-1)!.patch;
    if (title === "refused") return new Response(JSON.stringify({ error: "refused", path: "" }), { status: 422 });
    if (url.endsWith("/drafts")) return new Response(JSON.stringify(this.state(title, "a draft")));
    this.version++;
    this.title = title;
    const shown = this.state(title, `sum ${this.version}`);
    return new Response(
      `${JSON.stringify(shown)}\n${JSON.stringify({ version: this.version, undo: title, redo: "" })}\n`,
    );
  };
}

const titled = (title: string): Op[] => [{ op: "piece.set", patch: { title } }];
const settled = () => waitFor(() => expect(app().saving).toBe(0));

describe("what is tried", () => {
  /** Numbers 0..1 that are the same at each run. */
  let random: () => number;
  let server: Titles;
  beforeEach(() => {
    let seed = 7;
    random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    server = new Titles(async () => {
      for (let k = Math.floor(random() * 8); k > 0; k--) await Promise.resolve(); // some are answered sooner than others
    });
    open("keel");
    app().take(server.state(server.title, "sum 1"));
    vi.stubGlobal("fetch", server.answer);
  });

  test("never mixes with what is kept, whatever comes when", async () => {
    let latest = "";
    const made: Promise<boolean>[] = [];
    for (let k = 1; k <= 300; k++) {
      const what = Math.floor(random() * 6);
      if (what <= 1) void app().attempt(titled((latest = `Tried ${k}`)), what ? `${k}` : "");
      else if (what === 2) whileHeld(() => void app().edit(titled((latest = `Held ${k}`))));
      else if (what === 3) {
        latest = "";
        made.push(app().edit((now) => (keptOf(now) === now ? [] : titled(`Kept ${k}`))));
      } else if (what === 4) {
        latest = "";
        app().leave();
      } else
        void app()
          .attempt(titled("refused"))
          .then((why) => expect(["", "refused"]).toContain(why));
      if (what === 5) latest = "";
      if (random() < 0.6) continue;
      await app().attempt(latest ? titled(latest) : []); // by then all before has been answered
      expect(keptOf(app()).piece!.title).toBe(server.title);
      expect(app().version).toBe(server.version);
      expect(app().piece!.title).toBe(latest || server.title);
      expect(app().tried !== null).toBe(latest !== "");
    }
    expect(await Promise.all(made)).not.toContain(false);
    expect(server.version).toBeGreaterThan(20);
  });
  test("is kept by the edit that would be made at once", async () => {
    await app().attempt(titled("Tried"), "a title");
    expect(app()).toMatchObject({ piece: { title: "Tried" }, tried: { name: "a title" }, version: 1 });
    await app().edit(app().tried!.ops);
    await settled();
    expect(app()).toMatchObject({ piece: { title: "Tried" }, tried: null, version: 2 });
    expect(server.title).toBe("Tried");
  });
  test("is left where the edit that follows is refused", async () => {
    await app().attempt(titled("Tried"));
    expect(await app().edit(titled("refused"))).toBe(false);
    expect(app()).toMatchObject({ piece: { title: "Kept 0" }, tried: null });
  });
  test("is left by a hand that comes back to where it began", async () => {
    whileHeld(() => void app().edit(titled("Held")));
    await app().attempt(titled("Held"));
    whileHeld(() => {});
    expect(app()).toMatchObject({ piece: { title: "Kept 0" }, tried: null });
  });
  test("is not Saved while an edit waits behind it", () => {
    void app().attempt(titled("Tried"));
    void app().edit(titled("Kept"));
    expect(app().saving).toBeGreaterThan(0);
  });
});

describe("rhythm by dials", () => {
  const dials = (selection: number[] = []) => {
    open("keel", "low");
    app().select(selection);
    return show(<RhythmDials lane="Low" total={selection.length || 32} hits={6} />).person;
  };
  const drafts = () => asked.filter((a) => a.path.endsWith("/drafts")).map((a) => (a.body as { ops: Op[] }).ops);
  const all = Array.from({ length: 32 }, (_, i) => i + 1);
  const on = { clip: "keel", lane: "low", steps: all };
  test.each([
    ["Hits", "5", { op: "fill.even", hits: 5, over: 32, turn: 0 }],
    ["Over so many steps", "8", { op: "fill.even", hits: 6, over: 8, turn: 0 }],
    ["Over so many steps", "4", { op: "fill.even", hits: 4, over: 4, turn: 0 }],
    ["Rotation", "3", { op: "steps.rotate", by: 3, only: "rhythm" }],
    ["Thinned, %", "40", { op: "fill.thin", share: 40 }],
    ["Accents", "2", { op: "fill.accents", hits: 2, most: true }],
    ["Chance of all hits", "60", { op: "fill.chance", chance: 60 }],
    ["Chance of weak hits", "60", { op: "fill.chance", chance: 60, weak: true }],
  ])("%s at %s is tried, and kept with Enter", async (name, value, op) => {
    const person = dials();
    await person.clear(field(name));
    await person.type(field(name), value);
    await person.tab();
    await waitFor(() => expect(drafts().at(-1)).toEqual([{ ...op, ...on }]));
    expect(sent()).toEqual([]);
    await person.click(button("Keep"));
    await waitFor(() => expect(sent()).toEqual([{ ...op, ...on }]));
  });
  test("each turn begins from what stood before, and all that is turned is one edit", async () => {
    const person = dials();
    await person.type(field("Hits"), "{ArrowUp}{ArrowUp}");
    await person.type(field("Accents"), "{ArrowUp}");
    await waitFor(() =>
      expect(drafts().at(-1)).toEqual([
        { op: "fill.even", hits: 8, over: 32, turn: 0, ...on },
        { op: "fill.accents", hits: 1, most: true, ...on },
      ]),
    );
    expect(sent()).toEqual([]);
    await person.click(button("Put back"));
    expect((screen.getByRole("textbox", { name: "Hits" }) as HTMLInputElement).value).toBe("6");
    expect(app().tried).toBeNull();
    expect(button("Keep")).toBeDisabled();
  });
  test("on those selected, with no more hits than they are", async () => {
    const person = dials([3, 4, 8]);
    await person.type(field("Rotation"), "{ArrowUp}{Enter}");
    await waitFor(() =>
      expect(sent()).toEqual([
        { op: "steps.rotate", clip: "keel", lane: "low", steps: [4, 5, 9], by: 1, only: "rhythm" },
      ]),
    );
  });
  test("hits that are spread anew are turned as they are spread", async () => {
    const person = dials([3, 4, 8]);
    await person.type(field("Hits"), "{ArrowDown}");
    await person.type(field("Rotation"), "{ArrowUp}{Enter}");
    await waitFor(() =>
      expect(sent()).toEqual([
        { op: "fill.even", clip: "keel", lane: "low", steps: [4, 5, 9], hits: 2, over: 3, turn: 1 },
      ]),
    );
  });
  test("goes with what it tried", async () => {
    open("keel", "low");
    const { person } = show(<RhythmDials lane="Low" total={32} hits={6} />);
    await person.type(field("Hits"), "{ArrowUp}");
    await waitFor(() => expect(app().tried).not.toBeNull());
    cleanup();
    expect(app().tried).toBeNull();
  });
});
