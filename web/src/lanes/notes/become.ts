import { useApp } from "../../state/store";
import type { NotesLane } from "./notes";

/** Makes a lane of steps of free notes, where they fit. What was selected were notes: of the steps none is. */
export const become = (lane: NotesLane, as: string): void => {
  const { clip, edit, select } = useApp.getState();
  void edit([{ op: "lane.become", clip, lane: lane.id, as }]).then((made) => made && select([], 0));
};
