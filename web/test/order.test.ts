import { describe, expect, it, vi } from "vitest";

vi.mock("../src/state/player", () => ({
  stopPlaying: () => {},
  runOrder: () => Promise.resolve(true),
  orderPosition: () => ({ tick: 0, done: 0, scheduled: 0 }),
  listenToOrder: () => {},
  playInstead: () => {},
  playPosition: () => ({ playing: false }),
}));
import { drawn } from "./made";
import { heldClips, keyName, press, release, releaseKeys, turnHeld } from "../src/order/held";
import { forget, takeMessage, taughtTo, useTaught, valuesOf } from "../src/order/midi";
import { useOrder } from "../src/order/state";
import type { PlayedLane } from "../src/api/gen/server.gen";
import { Running, type RunningLane } from "../src/audio/running";
import {
  come,
  go,
  at,
  boundary,
  differsFrom,
  ended,
  mute,
  only,
  sent,
  shift,
  turn,
  type Live,
} from "../src/order/live";

const keel: Live = { clip: "keel", at: 0, for: 3840 };

describe("clips brought in and out", () => {
  it("comes in at a boundary and stays until it is taken out", () => {
    const on = turn([], "keel", 3840);
    expect(on).toEqual([{ clip: "keel", at: 3840, for: 1, open: true }]);
    expect(at(on, "keel", 99_999)).toBeDefined();
    expect(turn(on, "keel", 7680)).toEqual([{ clip: "keel", at: 3840, for: 3840, open: false, ring: false }]);
  });
  it("takes back what waits", () => {
    const on = turn([], "keel", 3840);
    expect(turn(on, "keel", 3840)).toEqual([]);
    const off = turn(on, "keel", 7680);
    expect(turn(off, "keel", 7680)[0]).toMatchObject({ at: 3840, open: true });
  });
  it("goes on in the place of what was written after it", () => {
    const all = turn([keel, { ...keel, at: 7680 }], "keel", 5000);
    expect(all).toEqual([keel, { clip: "keel", at: 5000, for: 1, open: true }]);
  });
  it("lets one alone sound", () => {
    const all = only([keel, { clip: "weir", at: 0, for: 1, open: true }], "quay", 960);
    expect(all.map((e) => [e.clip, e.at, e.open ? "open" : e.for])).toEqual([
      ["keel", 0, 960],
      ["weir", 0, 960],
      ["quay", 960, "open"],
    ]);
  });
  it("mutes a lane and moves the clip from a boundary on, and goes on where it was", () => {
    const muted = mute([keel], "keel", "low", 960);
    expect(muted[1]).toMatchObject({ at: 960, for: 2880, goesOn: true, mute: ["low"] });
    expect(mute(muted, "keel", "low", 960)[1]).toMatchObject({ mute: [] });
    const moved = shift(turn([], "keel", 0), "keel", 2, 960);
    expect(moved[1]).toMatchObject({ at: 960, open: true, goesOn: true, shift: 2 });
    expect(ended(moved, 1920).map((e) => e.for)).toEqual([960, 960]);
  });
  it("changes nothing before the boundary, whatever is done", () => {
    const draw = drawn(7);
    let all: Live[] = [];
    for (let now = 0; now < 400; now++) {
      const tick = boundary(now * 500 + draw(400), 960);
      const clip = ["keel", "weir", "quay"][draw(3)]!;
      const acts = [
        turn,
        only,
        (l: Live[], c: string, t: number) => mute(l, c, "low", t),
        (l: Live[], c: string, t: number) => shift(l, c, draw(5) - 2, t),
      ];
      const next = acts[draw(acts.length)]!(all, clip, tick);
      expect(differsFrom(all, next)).toBeGreaterThanOrEqual(tick);
      all = next;
      for (const own of ["keel", "weir", "quay"]) {
        const mine = sent(all, 1e9).filter((e) => e.clip === own);
        for (let i = 1; i < mine.length; i++)
          expect(mine[i - 1]!.at + mine[i - 1]!.for).toBeLessThanOrEqual(mine[i]!.at);
        for (const e of mine) expect(e.for).toBeGreaterThan(0);
      }
    }
  });
  it("is sent in whole ticks, whatever part of one has been played", () => {
    const [open] = turn([], "keel", 960);
    expect(sent([open!], 68498.188)).toEqual([{ clip: "keel", at: 960, for: 67539 }]);
  });
});

describe("keyboards and pads", () => {
  it("are taught to clips, and bring them in", () => {
    const view = {
      barTicks: 3840,
      beatTicks: 960,
      ticks: 0,
      entries: [],
      clips: [{ id: "keel", name: "Keel", length: 7680, lanes: [], silent: false, marks: [], shifts: [], roots: [] }],
    };
    useOrder.setState({ open: true, view, live: null });
    useTaught.setState({ heard: ["pads"], teaching: "keel", clips: {} });
    expect(takeMessage(new Uint8Array([0xb0, 20, 127]))).toBe(true);
    expect(taughtTo(useTaught.getState().clips, "keel")).toBe("controller 20");
    expect(useTaught.getState().teaching).toBe("");
    expect(takeMessage(new Uint8Array([0xb0, 20, 0]))).toBe(true);
    expect(useOrder.getState().live).toBeNull(); // it was let go
    takeMessage(new Uint8Array([0xb2, 20, 127]));
    expect(useOrder.getState().live).toMatchObject([{ clip: "keel", at: 0, open: true }]);
    useOrder.setState({ open: false, view: null, live: null, touched: false });
    expect(takeMessage(new Uint8Array([0x90, 60, 100]))).toBe(false);
  });
});

describe("clips that run while they are held, and those that a value chooses", () => {
  const clipOf = (id: string) => ({
    id,
    name: id,
    length: 7680,
    lanes: [],
    silent: false,
    marks: [],
    shifts: [],
    roots: [],
  });
  const begin = () => {
    const view = { barTicks: 3840, beatTicks: 960, ticks: 0, entries: [], clips: ["keel", "weir", "lock"].map(clipOf) };
    useOrder.setState({ open: true, view, live: [], touched: false });
    useTaught.setState({ heard: ["pads"], teaching: "", byValue: false, clips: { "note 36": "keel" }, values: {} });
    if (!heldClips().includes("keel")) turnHeld("keel");
  };
  const plays = () => useOrder.getState().live?.map((e) => [e.clip, e.open ?? false]) ?? [];
  it("comes in with the press and goes with the release", () => {
    expect(come([], "keel", 3840)).toEqual([{ clip: "keel", at: 3840, for: 1, open: true }]);
    const sounding = come([], "keel", 0);
    expect(come(sounding, "keel", 3840)).toEqual(sounding);
    expect(go(sounding, "keel", 7680)).toMatchObject([{ clip: "keel", at: 0, for: 7680, open: false }]);
    expect(go(come([], "keel", 3840), "keel", 3840)).toEqual([]);
    expect(go([], "keel", 0)).toEqual([]);
  });
  it("goes only once nothing holds it", () => {
    begin();
    takeMessage(new Uint8Array([0x90, 36, 100]));
    expect(plays()).toEqual([["keel", true]]);
    takeMessage(new Uint8Array([0x90, 36, 0]));
    expect(plays().filter(([, open]) => open)).toEqual([]);
    useOrder.setState({ live: [] });
    press(keyName("KeyQ"), "keel");
    press(keyName("KeyW"), "keel");
    release(keyName("KeyQ"));
    expect(plays().filter(([, open]) => open)).toEqual([["keel", true]]);
    releaseKeys();
    expect(plays().filter(([, open]) => open)).toEqual([]);
  });
  it("is held on by a pad when the page loses the keys", () => {
    begin();
    takeMessage(new Uint8Array([0x90, 36, 100]));
    press(keyName("KeyQ"), "keel");
    releaseKeys();
    expect(plays().filter(([, open]) => open)).toEqual([["keel", true]]);
    takeMessage(new Uint8Array([0x90, 36, 0]));
    expect(plays().filter(([, open]) => open)).toEqual([]);
  });
  it("divides a controller's values among the clips that it was taught to", () => {
    begin();
    for (const teaching of ["keel", "weir", "lock"]) {
      useTaught.setState({ teaching, byValue: true });
      takeMessage(new Uint8Array([0xb0, 7, 64]));
    }
    const { values } = useTaught.getState();
    expect(["keel", "weir", "lock"].map((id) => valuesOf(values, id))).toEqual([
      "controller 7 from 0 to 42",
      "controller 7 from 43 to 85",
      "controller 7 from 86 to 127",
    ]);
    for (const [value, clip] of [
      [0, "keel"],
      [42, "keel"],
      [43, "weir"],
      [127, "lock"],
      [90, "lock"],
    ] as const) {
      takeMessage(new Uint8Array([0xb0, 7, value]));
      expect(plays().filter(([, open]) => open)).toEqual([[clip, true]]);
    }
    // Played again, the same value brings its clip in again.
    useOrder.setState({ live: [] });
    takeMessage(new Uint8Array([0xb0, 7, 90]));
    expect(plays().filter(([, open]) => open)).toEqual([["lock", true]]);
    forget("weir");
    expect(valuesOf(useTaught.getState().values, "lock")).toBe("controller 7 from 64 to 127");
    useOrder.setState({ open: false, view: null, live: null, touched: false });
  });
});

const laneOf = (notes: number[]): RunningLane => ({
  id: "a/low",
  instrument: null,
  on: null,
  sound: { notes: notes.map((n) => ({ at: n })) } as unknown as PlayedLane,
});

const settled = () => new Promise((done) => setTimeout(done));

describe("the order while it plays", () => {
  const bars = () => {
    const asked: [number, number, boolean][] = [];
    const known: [number, string][] = [];
    let answer: (from: number, to: number) => RunningLane[] = (from) => [laneOf([from])];
    const running = new Running(async (from, to, begin, before) => {
      asked.push([from, to, begin]);
      const own = answer(from, to);
      known.push([from, before ? JSON.stringify(await before) : "nothing"]);
      return {
        lanes: own,
        silences: [{ tick: to - 1, lane: "a/low" }],
        zones: [{ upper: false, range: 48, members: [to] }],
      };
    }, 100);
    return { asked, known, running, answers: (next: typeof answer) => (answer = next) };
  };
  it("asks for the bar it begins in apart, and for bars before they are due", async () => {
    const { asked, running } = bars();
    await running.begin(130);
    expect(asked).toEqual([
      [130, 200, true],
      [200, 300, false],
    ]);
    running.need(130);
    await Promise.resolve();
    expect(asked.slice(2).map(([from]) => from)).toEqual([100, 300, 400]);
    expect(running.lanes(150)[0]!.sound.notes[0]!.at).toBe(130);
  });
  it("lets lanes fall silent where it is told, once", async () => {
    const { running } = bars();
    await running.begin(0);
    running.need(0);
    await settled();
    expect(running.silences(100, 200)).toEqual([{ tick: 199, lane: "a/low" }]);
    expect(running.silences(100, 199)).toEqual([]);
    expect(running.silences(199, 200)).toHaveLength(1);
  });
  it("goes no further than it knows, where something has changed", async () => {
    const { running, answers } = bars();
    await running.begin(0);
    running.need(0);
    await settled();
    expect(running.known(250)).toBe(Number.POSITIVE_INFINITY);
    answers((from) => [laneOf([from + 7])]);
    running.changed(250);
    expect(running.known(210)).toBe(200);
    await settled();
    expect(running.known(210)).toBe(Number.POSITIVE_INFINITY);
    expect(running.lanes(210)[0]!.sound.notes[0]!.at).toBe(207);
  });
  it("hands the zones from each bar to the next, and anew where something has changed", async () => {
    const { known, running } = bars();
    const at = (tick: number) => `[{"upper":false,"range":48,"members":[${tick}]}]`;
    await running.begin(130);
    running.need(230);
    await settled();
    expect(known).toEqual([
      [130, "nothing"],
      [200, at(200)],
      [300, at(300)],
      [400, at(400)],
      [500, at(500)],
    ]);
    known.length = 0;
    running.changed(420);
    await settled();
    expect(known).toEqual([
      [300, at(300)],
      [400, at(400)],
      [500, at(500)],
    ]);
  });
  it("comes round a loop", () => {
    const { running } = bars();
    running.loop = { from: 100, to: 300 };
    expect(running.place(250)).toEqual({ ahead: 0, until: 300 });
    expect(running.place(300)).toEqual({ ahead: 200, until: 500 });
    expect(running.place(750)).toEqual({ ahead: 600, until: 900 });
  });
});
