import { cellRail } from "../../canvas/rails/rail";

/** The rails of a pulse lane. To add one, add a row. */
export const rails = [
  cellRail("velocity", "pulse"),
  cellRail("gate", "pulse", 200),
  cellRail("chance", "pulse"),
  cellRail("nudge", "pulse"),
];

/** Which of them a mark's height is. */
export const VELOCITY = 0;
