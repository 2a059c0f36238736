import type { Cell } from "../../api/gen/piece.gen";
import type { Lane } from "../../api/gen/schema.gen";

/** A step in words, for those who hear the page: what it sounds, and what becomes of it. */
export function speakStep(
  lane: Lane,
  place: number,
  cell: Omit<Cell, "gate" | "tie" | "ratchet">,
  ...said: string[]
): string {
  const { tie = false, ratchet = 1 } = cell as Partial<Cell>;
  const more = [
    tie && "tied",
    ratchet > 1 && `${ratchet} times`,
    cell.on && cell.chance < 100 && `chance ${cell.chance} percent`,
    cell.on && cell.rounds && `in round ${cell.rounds.on.join(" and ")} of ${cell.rounds.of}`,
    cell.skip && "skipped",
  ].filter((part) => typeof part === "string");
  return `${lane.name} step ${place + 1}: ${[...said.filter(Boolean), ...more].join(", ")}`;
}

/** What a step of a note is struck with. */
export const struck = (cell: Cell): string => `velocity ${cell.velocity}, gate ${cell.gate} percent`;
