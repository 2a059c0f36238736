import { expect, test } from "vitest";
import { laneKinds } from "../src/lanes/kinds";

const sources = import.meta.glob<string>("../src/**/*.{ts,tsx}", { eager: true, query: "?raw", import: "default" });

/** Where kinds of lanes may be named: their own folders, and what the server sends. */
const rooms = ["../src/lanes/", "../src/api/"];
const names = Object.keys(laneKinds).join("|");
const naming = [
  new RegExp(`\\bkind\\b[^\\n]*["'\`](${names})["'\`]`),
  new RegExp(`["'\`](${names})["'\`]`),
  new RegExp(`facts\\.(lane|step)\\.(${names})\\b`),
  new RegExp(`lanes/(${names})/`),
];
/** A wave of a voice is called a pulse, as the trade calls it. */
const waves = /wave === "pulse"/g;

test("nothing but its own folder and the tables names a kind of lane", () => {
  const others = Object.entries(sources).filter(([path]) => !rooms.some((room) => path.startsWith(room)));
  expect(others.length).toBeGreaterThan(60);
  for (const [path, text] of others) {
    for (const name of naming) expect(text.replace(waves, "").match(name)?.[0], path).toBeUndefined();
  }
});
