import type { Lane } from "./gen/schema.gen";

/** The kind of lane that is meant where none is stated. */
export const defaultKind = "line" satisfies Lane["kind"];
