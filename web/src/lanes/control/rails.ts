import { cellRail } from "../../canvas/rails/rail";

/** The rails of a control lane. To add one, add a row. */
export const rails = [cellRail("chance", "control"), cellRail("nudge", "control")];
