import { PPQ } from "./gen/view.gen";
import type { Lane } from "./gen/schema.gen";

/** The kind of lane that is meant where none is stated. */
export const defaultKind = "line" satisfies Lane["kind"];

/** How long a bar and a beat are taken to be, in ticks, while it is not known. */
export const BAR = 4 * PPQ;
export const BEAT = PPQ;
