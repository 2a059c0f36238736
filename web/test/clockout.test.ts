import { expect, test } from "vitest";
import { clockFree, clocksBetween, clockStarts, clockStops } from "../src/ports/clock";
import { CLOCK, CONTINUE, PLACE, START, STOP, type OutPort } from "../src/ports/port";
import { usePorts } from "../src/ports/routes";

/** What a device counts that follows a clock: it starts and goes on where it is told, and stands still when stopped. */
function counted(sent: readonly { at: number; message: readonly number[] }[]) {
  let [place, running, stray] = [0, false, 0];
  const inOrder = sent.map((m, i) => ({ ...m, i })).sort((a, b) => a.at - b.at || a.i - b.i);
  for (const { message } of inOrder) {
    const [status = 0, low = 0, high = 0] = message;
    if (status === START) [place, running] = [0, true];
    else if (status === PLACE) place = ((high << 7) | low) * 6;
    else if (status === CONTINUE) running = true;
    else if (status === STOP) running = false;
    else if (status === CLOCK && running) place++;
    else if (status === CLOCK) stray++;
  }
  return { place, stray };
}

test("a device that follows the clock stands where playing does after a leap, and hears no clock after stop", () => {
  const sent: { at: number; message: readonly number[] }[] = [];
  const port: OutPort = {
    id: "x",
    name: "X",
    standIn: false,
    send: (message, at) => void sent.push({ at, message }),
    clear: () => undefined,
  };
  usePorts.setState({ outs: [port], clocked: ["x"] });
  const now = performance.now();
  const ms = 0.5; // a tick
  clockStarts(0, now);
  clocksBetween(0, 960, (tick) => now + tick * ms); // a quarter, all sent ahead
  // It leaps to the ninth sixteenth, no sooner than what was sent ahead is past.
  const begin = clockFree();
  expect(begin).toBeGreaterThan(now + 920 * ms);
  clockStarts(1920, begin);
  clocksBetween(1920, 2880, (tick) => begin + (tick - 1920) * ms);
  clockStops();
  expect(sent.filter(({ message }) => message[0] === STOP)).toHaveLength(1);
  const { place, stray } = counted(sent);
  expect(stray).toBe(0);
  expect(place).toBe(8 * 6 + 24);
  usePorts.setState({ outs: [], clocked: [] });
});
