import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { takeFirst } from "../src/input/midi";
import { askForPorts } from "../src/input/access";
import { allQuiet, senderOf, stopAll, usePorts } from "../src/ports/routes";
import { onStandIn, sendFromStandIn } from "../src/ports/standin";
import { useApp } from "../src/state/store";

/** A browser's MIDI with one device that can be pulled out. */
function studio() {
  const sent: number[][] = [];
  const device = {
    id: "desk",
    name: "Desk",
    state: "connected",
    refuses: false,
    send(message: number[]) {
      if (this.refuses || this.state !== "connected") throw new Error("the device is busy");
      sent.push(message);
    },
  };
  const keys = {
    id: "keys",
    name: "Keys",
    state: "connected",
    onmidimessage: null as ((e: { data: Uint8Array; timeStamp: number }) => void) | null,
  };
  const access = {
    outputs: new Map([["desk", device]]),
    inputs: new Map([["keys", keys]]),
    onstatechange: null as (() => void) | null,
  };
  vi.stubGlobal("navigator", { requestMIDIAccess: () => Promise.resolve(access) });
  return { sent, device, keys, access };
}

const said = () => useApp.getState().error;

beforeEach(() => {
  useApp.setState({ error: "" });
  usePorts.setState({ outs: usePorts.getState().outs.filter((p) => p.standIn), ins: [] });
});
afterEach(() => vi.unstubAllGlobals());

test("a port that vanishes is said, is told nothing more, and is there again when it is plugged in", async () => {
  const { sent, device, access } = studio();
  await askForPorts();
  senderOf("desk")!.strike("low", 1, 0, 1e9, 60, 90);
  expect(sent).toEqual([[0x90, 60, 90]]);
  device.state = "disconnected";
  access.onstatechange!();
  expect(said()).toBe("Desk is gone; all else plays on.");
  useApp.setState({ error: "" });
  stopAll();
  allQuiet();
  expect([said(), senderOf("desk"), sent.length]).toEqual(["", null, 1]);

  device.state = "connected";
  access.onstatechange!();
  senderOf("desk")!.strike("low", 1, 0, 1e9, 62, 90);
  stopAll();
  expect(sent.slice(1)).toEqual([
    [0x90, 62, 90],
    [0x80, 62, 0],
  ]);
});

test("a port that refuses what it is sent is said once, and harms nothing else", async () => {
  const { device } = studio();
  device.refuses = true;
  await askForPorts();
  senderOf("desk")!.strike("low", 1, 0, 100, 60, 90);
  expect(said()).toBe("Desk refuses what is sent: the device is busy.");
  useApp.setState({ error: "" });
  senderOf("desk")!.strike("low", 1, 200, 300, 62, 90);
  stopAll();
  expect(said()).toBe("");
});

test("ports that the user does not allow leave the stand-in", async () => {
  vi.stubGlobal("navigator", { requestMIDIAccess: () => Promise.reject(new Error("not allowed")) });
  await askForPorts();
  expect(said()).toBe("The MIDI ports could not be had: not allowed. The stand-in is there all the same.");
  vi.stubGlobal("navigator", {});
  await askForPorts();
  expect(said()).toBe("This browser has no Web MIDI: the stand-in is the only port.");
  expect(usePorts.getState().outs.map((p) => p.name)).toEqual(["Stand-in"]);
});

test("a flood of messages is passed over beyond what anyone plays, once said, and then it is listened to again", async () => {
  const { keys } = studio();
  await askForPorts();
  let heard = 0;
  takeFirst(() => ++heard > 0);
  const second = (from: number, count: number) => {
    for (let k = 0; k < count; k++)
      keys.onmidimessage!({ data: Uint8Array.of(0x90, 60, 90), timeStamp: from + (k * 1000) / count });
  };
  second(2000, 10000);
  expect(said()).toBe("Keys sends more than 4000 messages a second; what is beyond is passed over.");
  expect(heard).toBe(4000);
  useApp.setState({ error: "" });
  second(3001, 10000);
  expect([said(), heard]).toEqual(["", 8000]);
  second(9000, 100);
  second(12000, 5000);
  expect(heard).toBe(12100);
  expect(said()).toContain("Keys sends more than 4000");
  takeFirst(null);
});

test("the stand-in is heard as a device is", () => {
  const came: [number[], number][] = [];
  const leave = onStandIn((data, at) => came.push([[...data], at]));
  sendFromStandIn([0x90, 60, 1], 5);
  leave();
  sendFromStandIn([0x80, 60, 0], 6);
  expect(came).toEqual([[[0x90, 60, 1], 5]]);
});
