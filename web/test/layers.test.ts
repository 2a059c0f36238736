import { expect, test } from "vitest";

const sources = import.meta.glob<string>("../src/**/*.{ts,tsx}", { eager: true, query: "?raw", import: "default" });

/** The folders of the source, from the top: each asks those below it and those beside it. */
const layers = [
  ["app"],
  ["home", "sheet", "margin", "clips", "result", "transport", "order", "dialogs", "input", "shortcuts", "notices"],
  ["lanes"],
  ["canvas"],
  ["controls"],
  ["state"],
  ["audio", "ports", "sound"],
  ["synth"],
  ["api"],
  ["."],
];

const heightOf = (folder: string): number => layers.findIndex((layer) => layer.includes(folder));

/** The folder of a file, by its path from the source's; "." for the files that stand in none. */
const folderOf = (path: string): string => (path.includes("/") ? path.slice(0, path.indexOf("/")) : ".");

/** A path from the source's folder that a file imports. */
function imported(from: string, path: string): string {
  const parts = from.split("/").slice(0, -1);
  for (const part of path.split("/")) {
    if (part === "..") parts.pop();
    else if (part !== ".") parts.push(part);
  }
  return parts.join("/");
}

test("imports point downwards", () => {
  const upwards: string[] = [];
  const unknown = new Set<string>();
  let seen = 0;
  for (const [name, text] of Object.entries(sources)) {
    const file = name.replace("../src/", "");
    if (file === "main.tsx") continue; // it begins everything
    for (const [, path] of text.matchAll(/(?:from|import|import\()\s*"(\.[^"?]+)[^"]*"/g)) {
      const [own, other] = [folderOf(file), folderOf(imported(file, path!))];
      seen++;
      for (const folder of [own, other]) if (heightOf(folder) < 0) unknown.add(folder);
      if (heightOf(other) < heightOf(own)) upwards.push(`${file} imports ${path}`);
    }
  }
  expect(seen).toBeGreaterThan(500);
  expect([...unknown], "every folder has its layer").toEqual([]);
  expect(upwards).toEqual([]);
});
