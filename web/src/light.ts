import { create } from "zustand";
import { keep, recall } from "./kept";
import { forgetTokens } from "./theme";

/** What the light goes by. */
export type Chosen = "system" | "day" | "lamp";

const KEPT = "agrimony light"; // as in public/light.js
const night = globalThis.matchMedia?.("(prefers-color-scheme: dark)");

const seen = (chosen: Chosen): "day" | "lamp" => (chosen === "system" ? (night?.matches ? "lamp" : "day") : chosen);

function kept(): Chosen {
  const own = recall(KEPT);
  return own === "day" || own === "lamp" ? own : "system";
}

interface Light {
  chosen: Chosen;
  /** By which light one sees. */
  light: "day" | "lamp";
}

const useStore = create<Light>(() => ({ chosen: kept(), light: seen(kept()) }));

/** By which light one sees; what draws on canvas asks, and draws anew as it changes. */
export const useLight = (): "day" | "lamp" => useStore((s) => s.light);
export const useChosenLight = (): Chosen => useStore((s) => s.chosen);

/** Chooses by what the light goes, which is remembered on this machine. */
export function chooseLight(chosen: Chosen): void {
  keep(KEPT, chosen);
  show(chosen);
}

function show(chosen: Chosen): void {
  const light = seen(chosen);
  document.documentElement.dataset.light = light;
  forgetTokens();
  useStore.setState({ chosen, light });
}

night?.addEventListener?.("change", () => show(useStore.getState().chosen));
