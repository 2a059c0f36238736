import { expect, test } from "vitest";
import { Follower, LOST } from "../src/ports/follow";
import { CLOCK, CONTINUE, inWords, placeOf, START, STOP, wheel, type OutPort } from "../src/ports/port";
import { Sender } from "../src/ports/sender";
import { drawn } from "./made";

/** A port that keeps what it is sent, and a clock that one sets. */
function desk(delay = 0, takesBack = false) {
  const sent: { at: number; message: readonly number[] }[] = [];
  const clock = { now: 0 };
  const port: OutPort = {
    id: "x",
    name: "X",
    standIn: true,
    send: (message, at) => void sent.push({ at, message }),
    clear: () => {
      // What is not due yet is taken back, the ends of notes too.
      for (let i = sent.length - 1; takesBack && i >= 0; i--) if (sent[i]!.at > clock.now) sent.splice(i, 1);
    },
  };
  return { sent, clock, sender: new Sender(port, () => clock.now, delay) };
}

/** Plays what was sent as an instrument does, and tells what still sounds at the end. */
function sounding(sent: readonly { at: number; message: readonly number[] }[]) {
  const keys = new Set<string>();
  const wheels = new Map<number, number>();
  const held = new Map<string, number>();
  [...sent]
    .map((m, i) => ({ ...m, i }))
    .sort((a, b) => a.at - b.at || a.i - b.i)
    .forEach(({ message: [status = 0, a = 0, b = 0] }) => {
      const channel = status & 15;
      const what = status & 0xf0;
      if (what === 0x90 && b > 0) keys.add(`${channel} ${a}`);
      else if (what === 0x80 || what === 0x90) keys.delete(`${channel} ${a}`);
      else if (what === 0xe0) wheels.set(channel, ((b << 7) | a) - 8192);
      else if (what === 0xb0 && (a === 64 || a === 65)) held.set(`${channel} ${a}`, b);
    });
  return { keys: [...keys], wheels: [...wheels.values()].filter(Boolean), held: [...held.values()].filter(Boolean) };
}

test("a note is sent with its end once that comes near, so much later as its port wants", () => {
  const { sent, sender } = desk(-30);
  sender.strike("low", 3, 1000, 1200, 60, 90);
  sender.pump(1200);
  expect(sent).toEqual([{ at: 970, message: [0x92, 60, 90] }]);
  sender.pump(1201);
  sender.pump(5000);
  expect(sent.slice(1)).toEqual([{ at: 1170, message: [0x82, 60, 0] }]);
});

/** How long each note sounded, as an instrument has it: by channel, key and onset. */
function spans(sent: readonly { at: number; message: readonly number[] }[]): Map<string, number> {
  const on = new Map<string, number>();
  const out = new Map<string, number>();
  [...sent]
    .map((m, i) => ({ ...m, i }))
    .sort((a, b) => a.at - b.at || a.i - b.i)
    .forEach(({ at, message: [status = 0, key = 0] }) => {
      const what = `${(status & 15) + 1} ${key}`;
      if ((status & 0xf0) === 0x90) on.set(what, at);
      if ((status & 0xf0) !== 0x80 || !on.has(what)) return;
      out.set(`${what} ${on.get(what)}`, at - on.get(what)!);
      on.delete(what);
    });
  return out;
}

test("each note lasts as long as it is struck for, unless its key, or what has its channel for itself, is struck anew, or its lane falls silent", () => {
  for (let round = 0; round < 400; round++) {
    const draw = drawn(round);
    const { sent, clock, sender } = desk();
    // On channel 3 and 4 there are notes that have it for themselves, on 4 beside those of lanes set to it.
    const struck: { lane: string; channel: number; key: number; apart: boolean; at: number; end: number }[] = [];
    // Lanes are told of what is ahead one after another, whatever the order of time.
    for (let turn = 0; turn < 30; turn++) {
      const until = clock.now + 210;
      if (draw(4) === 0) {
        const [lane, at] = [`lane ${draw(3)}`, until - 50 + draw(50)];
        sender.silence(lane, at);
        for (const n of struck) if (n.lane === lane) n.end = Math.min(n.end, at);
      }
      for (let k = draw(8); k > 0; k--) {
        const channel = 1 + draw(4);
        const apart = channel === 3 || (channel === 4 && draw(2) === 1);
        const note = {
          lane: `lane ${draw(3)}`,
          channel,
          key: 60 + draw(3),
          apart,
          at: until - 50 + draw(50) + k / 16,
          end: 0,
        };
        note.end = note.at + 5 + draw(600);
        struck.push(note);
        sender.strike(note.lane, channel, note.at, note.end, note.key, 90, apart ? [] : undefined);
      }
      sender.pump(until);
      clock.now += 50;
    }
    sender.pump(1e6);
    const heard = spans(sent);
    for (const n of struck) {
      const next = struck
        .filter((o) => o.channel === n.channel && (o.key === n.key || (o.apart && n.apart)) && o.at > n.at)
        .map((o) => o.at);
      const end = Math.min(n.end, ...next);
      const lasted = heard.get(`${n.channel} ${n.key} ${n.at}`);
      expect(lasted, `round ${round}: ${JSON.stringify(n)} until ${end}`).toBe(end - n.at);
    }
  }
});

test("the wheel of a note's own channel is set before it, and goes with it until it ends or makes room", () => {
  const { sent, sender } = desk();
  const wheelOf = (at: number) => [0, 50, 100, 400].map((after, k) => ({ at: at + after, value: -100 * (k + 1) }));
  sender.strike("haze", 2, 1000, 1300, 60, 90, wheelOf(1000));
  sender.pump(1060);
  expect(sent).toEqual([
    { at: 1000, message: wheel(2, -100) },
    { at: 1000, message: [0x91, 60, 90] },
    { at: 1050, message: wheel(2, -200) },
  ]);
  sender.strike("haze", 2, 1080, 1200, 64, 90, [{ at: 1080, value: 7 }]);
  sender.pump(2000);
  expect(sent.slice(3)).toEqual([
    { at: 1080, message: [0x81, 60, 0] },
    { at: 1080, message: wheel(2, 7) },
    { at: 1080, message: [0x91, 64, 90] },
    { at: 1200, message: [0x81, 64, 0] },
  ]);
});

test("whatever was begun, nothing hangs once it stops, also what was sent ahead", () => {
  for (let round = 0; round < 2000; round++) {
    const draw = drawn(round);
    const { sent, clock, sender } = desk(draw(3) * 20, round % 2 === 1);
    for (let k = 0; k < 40; k++) {
      const lane = `l${draw(3)}`;
      const channel = 1 + draw(4);
      const at = clock.now + draw(200);
      const what = draw(7);
      const going = [0, 30, 60].map((after) => ({ at: at + after, value: draw(16384) - 8192 }));
      if (what < 3) sender.strike(lane, channel, at, at + 1 + draw(400), 40 + draw(6), 1 + draw(127));
      else if (what === 6) sender.strike(lane, channel + draw(2) * 8, at, at + 1 + draw(400), 40 + draw(6), 90, going);
      else if (what === 3) sender.bend(lane, channel, at, draw(16384) - 8192);
      else if (what === 4) sender.control(lane, channel, at, [64, 65, 74][draw(3)]!, draw(128));
      else sender.silence(lane, clock.now);
      clock.now += draw(30);
      if (draw(3)) sender.pump(clock.now + 110);
    }
    if (round % 2 === 0)
      clock.now += 250; // what was sent ahead is due: then order is that of time
    else for (const lane of ["l0", "l1", "l2"]) sender.silence(lane, clock.now + 3);
    sender.stop();
    expect(sounding(sent), `round ${round}`).toEqual({ keys: [], wheels: [], held: [] });
  }
});

test("of two lanes on one channel that bend, the last to fall silent puts its wheel back", () => {
  const { sent, sender } = desk();
  sender.bend("low", 1, 0, 500);
  sender.bend("reed", 1, 5, 700);
  sender.silence("low", 10);
  expect(sent).toHaveLength(2);
  sender.silence("reed", 20);
  expect(sent.slice(2)).toEqual([{ at: 20, message: wheel(1, 0) }]);
});

test("what is taken away by an edit ends, and what is wanted goes on", () => {
  const { sent, clock, sender } = desk();
  sender.strike("low", 1, 0, 1000, 60, 90);
  sender.strike("low", 1, 0, 1000, 64, 90);
  clock.now = 100;
  sender.silence("low", 100, (key) => key === 60);
  expect(sent.filter((m) => m.at === 100)).toEqual([{ at: 100, message: [0x80, 64, 0] }]);
});

test("a note ends earlier than was sent ahead, where its key is struck by hand or its lane falls silent", () => {
  for (const earlier of ["strike", "silence"]) {
    const { sent, clock, sender } = desk();
    sender.strike("low", 1, 0, 200, 60, 90);
    sender.pump(250);
    clock.now = 90;
    if (earlier === "strike") sender.strike("by hand", 1, 100, 400, 60, 90);
    else sender.silence("low", 100);
    sender.pump(300);
    expect(
      sent.filter(({ message }) => message[0] === 0x80).map(({ at }) => at),
      earlier,
    ).toEqual([200, 100]);
  }
});

test("messages in words", () => {
  expect(inWords([0x91, 60, 100])).toBe("channel 2: note 60 is struck, velocity 100");
  expect(inWords(wheel(5, -100))).toBe("channel 5: the wheel stands at -100");
  expect(inWords(placeOf(16))).toBe("place: 17. sixteenth");
  expect([START, STOP, CONTINUE, CLOCK].map((m) => inWords([m]))).toEqual(["start", "stop", "continue", "clock"]);
});

/** Sends clocks of a tempo for a time, each up to so many ms late. */
function clocks(f: Follower, tempo: number, from: number, to: number, jitter: number): void {
  const draw = drawn(5);
  for (let at = from; at < to; at += 2500 / tempo) f.take([CLOCK], at + ((draw(2001) - 1000) / 1000) * jitter);
}

test.each([60, 90.5, 128, 174])("a clock of %d a minute is followed within 1 % though it jitters by 3 ms", (tempo) => {
  const f = new Follower();
  f.take([START], 0);
  const draw = drawn(3);
  for (let at = 0, k = 0; at < 20000; at += 2500 / tempo, k++) {
    f.take([CLOCK], at + (draw(6001) - 3000) / 1000);
    if (k < 48) continue;
    expect(Math.abs(f.tempo! / tempo - 1)).toBeLessThan(0.01);
    // The place is the sender's: clock k is k clocks from the start.
    expect(Math.abs(f.place(at)! - k / 24)).toBeLessThan(0.02);
  }
});

test("a change of tempo is taken within two beats, a place and a stop at once", () => {
  const f = new Follower();
  f.take([START], 0);
  clocks(f, 120, 0, 4000, 1);
  clocks(f, 150, 4000, 6000, 1);
  expect(f.tempo!).toBeGreaterThan(148);
  f.take(placeOf(32), 6000);
  f.take([CONTINUE], 6000);
  f.take([CLOCK], 6000);
  expect(f.place(6000)!).toBeCloseTo(8, 0);
  f.take([STOP], 6100);
  expect(f.playing).toBe(false);
  expect(f.place(6100)).toBeNull();
});

test("a clock that falls silent is lost after two seconds, and one that jumps does no harm", () => {
  const f = new Follower();
  f.take([START], 0);
  expect(f.lost(100)).toBe(false); // its first clock is yet to come
  clocks(f, 120, 0, 3000, 0);
  expect(f.lost(3000 + LOST - 100)).toBe(false);
  expect(f.lost(3000 + LOST + 100)).toBe(true);
  for (const at of [1000, 99999, 0, 100000, 100020.8]) f.take([CLOCK], at);
  expect(Number.isFinite(f.tempo ?? 0)).toBe(true);
});
