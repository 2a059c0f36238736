import { releaseAll } from "./actions";
import { heard, takenFirst } from "./midi";
import { message, useApp } from "../state/store";
import { takeClock } from "../ports/clock";
import type { OutPort } from "../ports/port";
import { forget, usePorts } from "../ports/routes";
import { onStandIn, STAND_IN, standIn } from "../ports/standin";
import { takeTaught } from "./taught";

/** How many messages a second of one device are looked at; what floods beyond is passed over, which is
 * said as it begins. */
const FLOOD = 4000;

function inlet(id: string, name: string): (data: Uint8Array, at: number) => void {
  let since = 0;
  let count = 0;
  let floods = false;
  return (data, at) => {
    if (at - since > 1000) [since, count, floods] = [at, 0, count > FLOOD];
    if (++count > FLOOD) {
      if (count === FLOOD + 1 && !floods)
        useApp
          .getState()
          .set({ error: `${name} sends more than ${FLOOD} messages a second; what is beyond is passed over.` });
      return;
    }
    if (data[0]! >= 0xf0) takeClock(id, data, at);
    else if (!takenFirst(data) && !takeTaught(data)) heard(data, at);
  };
}

onStandIn(inlet(STAND_IN, "The stand-in"));

/** The browser's own ports, and those that come and go from then on. */
async function ask(): Promise<void> {
  const access = await navigator.requestMIDIAccess();
  const look = () => {
    const outs: OutPort[] = [...(access.outputs?.values() ?? [])]
      .filter((o) => o.state === "connected")
      .map((o) => usePorts.getState().outs.find((p) => p.id === o.id) ?? outOf(o));
    const ins = [...access.inputs.values()].filter((i) => i.state === "connected");
    const gone = usePorts.getState().outs.filter((p) => !p.standIn && !outs.some((o) => o.id === p.id));
    for (const { id } of gone) forget(id);
    if (gone.length)
      useApp.getState().set({ error: `${gone.map((p) => p.name).join(", ")} is gone; all else plays on.` });
    // A keyboard that is gone holds no key.
    if (usePorts.getState().ins.some((was) => !ins.some((i) => i.id === was.id))) releaseAll();
    for (const input of ins) {
      const take = inlet(input.id, input.name ?? "A device");
      input.onmidimessage = ({ data, timeStamp }) => data && take(data, timeStamp || performance.now());
    }
    usePorts.setState({
      asked: true,
      outs: [standIn, ...outs],
      ins: ins.map((i) => ({ id: i.id, name: i.name ?? "keyboard" })),
    });
  };
  access.onstatechange = look;
  look();
}

/** Asks for the browser's own ports, where it has them and the user lets it. */
export async function askForPorts(): Promise<void> {
  const { set } = useApp.getState();
  if (typeof navigator.requestMIDIAccess !== "function") {
    set({ error: "This browser has no Web MIDI: the stand-in is the only port." });
    return;
  }
  await ask().catch((problem: unknown) =>
    set({ error: `The MIDI ports could not be had: ${message(problem)}. The stand-in is there all the same.` }),
  );
}

/** Listens to the keyboards that are plugged in, or will be. told is given their names now and whenever they
 * change. */
export async function listen(told: (names: string[]) => void): Promise<void> {
  await ask();
  const names = () => usePorts.getState().ins.map((i) => i.name);
  told(names());
  usePorts.subscribe((now, was) => {
    if (now.ins !== was.ins) told(names());
  });
}

function outOf(output: MIDIOutput): OutPort {
  let refused = false;
  return {
    id: output.id,
    name: output.name ?? "a device",
    standIn: false,
    send(bytes, at) {
      try {
        output.send([...bytes], at || undefined);
      } catch (problem) {
        if (!refused) useApp.getState().set({ error: `${output.name} refuses what is sent: ${message(problem)}.` });
        refused = true;
      }
    },
    clear: () => (output as { clear?: () => void }).clear?.(),
  };
}
