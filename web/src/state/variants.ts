import type { App } from "./app";
import { useApp } from "./store";

const app = useApp.getState;

/** The clips of the stack that the open clip stands in, the head first. */
export function stackOf(s: App): { id: string; name: string }[] {
  const clips = s.piece?.clips ?? [];
  const own = clips.find((c) => c.id === s.clip);
  const head = own?.of || s.clip;
  return [...clips.filter((c) => c.id === head), ...clips.filter((c) => c.of === head)];
}

/** Makes a variant of the clip that is open, and opens it. */
export async function newVariant(): Promise<void> {
  const { clip, piece } = app();
  if (!clip) return;
  const before = new Set(piece?.clips.map((c) => c.id));
  if (!(await app().edit([{ op: "clip.variant", clip }]))) return;
  const made = app().piece?.clips.find((c) => !before.has(c.id));
  if (made) await app().openClip(made.id);
}

/** Opens a variant by its place in the stack, from 1: where the loop runs it goes on in it. */
export async function openVariant(place: number): Promise<void> {
  const { blind } = app();
  const to = blind ? blind.order[place - 1] : stackOf(app())[place - 1]?.id;
  if (to) await app().openClip(to);
}

/** Listens blind: the order is drawn, and names are hidden until it is told. */
export function listenBlind(): void {
  const order = stackOf(app()).map((c) => c.id);
  const draws = crypto.getRandomValues(new Uint32Array(order.length));
  const drawn = order.map((id, i) => ({ id, by: draws[i]! })).sort((a, b) => a.by - b.by);
  app().set({ blind: { order: drawn.map((d) => d.id), told: false } });
}
