import { expect, test } from "vitest";
import css from "../src/tokens.css?raw";

/** The tokens of a light: those of the day, and what the lamp changes. */
function tokensOf(light: "day" | "lamp"): Map<string, string> {
  const blocks = [...css.matchAll(/:root(?:\[data-light="(\w+)"\])?\s*\{([^}]*)\}/g)];
  const tokens = new Map<string, string>();
  for (const [, of, text] of blocks)
    if (!of || of === light)
      for (const [, name, value] of text!.matchAll(/--([\w-]+):\s*(#[0-9a-f]{6});/g)) tokens.set(name!, value!);
  return tokens;
}

/** The relative luminance of a colour, by WCAG 2.2. */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** What is written in, and on what. */
const written = ["ink", "ink-2", "wrong", "madder", "woad", "walnut", "heather", "slate"];
const grounds = ["paper", "leaf", "paper-2"];

test.each(["day", "lamp"] as const)("all that is written can be read by %s", (light) => {
  const tokens = tokensOf(light);
  const faint = written
    .flatMap((text) => grounds.map((ground) => [text, ground] as const))
    .concat([
      ["ink", "paper-3"],
      ["ink", "tint"],
      ["ink-2", "tint"],
      ["now-ink", "now"],
      ["ink", "now-soft"],
    ])
    .map(([text, ground]) => ({ text, ground, ratio: contrast(tokens.get(text)!, tokens.get(ground)!) }))
    .filter(({ ratio }) => !(ratio >= 4.5));
  expect(faint).toEqual([]);
});
