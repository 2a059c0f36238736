import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { ApiError } from "../src/api/client";
import { persist, type Unsaved } from "../src/state/saving";

const down = () => new ApiError(0, { error: "The server cannot be reached.", path: "" });
const broken = () => new ApiError(500, { error: "The server could not do this.", path: "" });

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A server that fails so often, and what is told meanwhile. */
function serverThat(...failures: Error[]) {
  const keys: string[] = [];
  const told: (Unsaved | null)[] = [];
  const request = async (key: string) => {
    keys.push(key);
    const failure = failures.shift();
    if (failure) throw failure;
    return "kept";
  };
  return { keys, told, answer: persist(request, (unsaved) => told.push(unsaved)) };
}

test("a change is sent again under the same key until it is kept", async () => {
  const { keys, told, answer } = serverThat(down(), broken());
  await vi.runAllTimersAsync();
  expect(await answer).toBe("kept");
  expect(keys).toHaveLength(3);
  expect(new Set(keys).size).toBe(1);
  expect(told.map((unsaved) => unsaved?.problem)).toEqual([
    "The server cannot be reached.",
    "The server could not do this.",
    undefined,
  ]);
});

test("two changes have keys of their own", async () => {
  const [first, second] = [serverThat(), serverThat()];
  await Promise.all([first.answer, second.answer]);
  expect(first.keys[0]).not.toBe(second.keys[0]);
});

test("what is refused is not sent again", async () => {
  const { keys, answer } = serverThat(new ApiError(422, { error: "gate is above 400", path: "" }));
  await expect(answer).rejects.toThrow("gate is above 400");
  expect(keys).toHaveLength(1);
});

test("waiting can be cut short, and given up", async () => {
  const { keys, told, answer } = serverThat(down(), down());
  await vi.advanceTimersByTimeAsync(0);
  told[0]?.again();
  await vi.advanceTimersByTimeAsync(0);
  expect(keys).toHaveLength(2);
  told[1]?.drop();
  await expect(answer).rejects.toThrow("cannot be reached");
  expect(told.at(-1)).toBeNull();
});
