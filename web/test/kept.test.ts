import { afterEach, expect, test, vi } from "vitest";
import { keep, recall, recalled } from "../src/kept";

afterEach(() => vi.unstubAllGlobals());

/** A browser's storage that keeps something or not. */
function storage(held: Record<string, string>, keeps: () => boolean): void {
  vi.stubGlobal("window", {
    localStorage: {
      getItem: (name: string) => held[name] ?? null,
      setItem: (name: string, value: string) => {
        if (!keeps()) throw new Error("the storage is full");
        held[name] = value;
      },
    },
  });
}

test("what was kept last is what is recalled, also where the browser did not keep it", () => {
  let keeps = true;
  const held: Record<string, string> = {};
  storage(held, () => keeps);
  keep("height", "1");
  keeps = false;
  keep("height", "2");
  expect(held.height).toBe("1");
  expect(recall("height")).toBe("2");
  keeps = true;
  keep("height", "3");
  held.height = "4"; // another tab
  expect(recall("height")).toBe("4");
});

test("where pages may keep nothing, all lasts as long as the page", () => {
  vi.stubGlobal("window", {
    get localStorage(): Storage {
      throw new Error("access is denied");
    },
  });
  expect(recall("width")).toBeNull();
  keep("width", "[5]");
  expect(recalled("width", [0])).toEqual([5]);
  expect(recalled("depth", 7)).toBe(7);
});
