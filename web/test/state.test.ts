import { expect, test } from "vitest";
import { Queue } from "../src/state/queue";

test("work in the queue goes one after another, also after a failure", async () => {
  const queue = new Queue();
  const log: string[] = [];
  let release = () => {};
  const gate = new Promise<void>((done) => (release = done));
  const first = queue.add(async () => {
    log.push("first begins");
    await gate;
    log.push("first ends");
    throw new Error("no");
  });
  const second = queue.add(async () => {
    log.push("second");
    return 2;
  });
  await Promise.resolve();
  expect(log).toEqual(["first begins"]);
  release();
  await expect(first).rejects.toThrow("no");
  expect(await second).toBe(2);
  expect(log).toEqual(["first begins", "first ends", "second"]);
});
