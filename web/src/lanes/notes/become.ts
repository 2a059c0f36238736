import { useApp } from "../../state/store";
import type { NotesLane } from "./notes";

/** Makes a lane of steps of free notes, where they fit. */
export const become = (lane: NotesLane, as: string): void => {
  const { clip, edit } = useApp.getState();
  void edit([{ op: "lane.become", clip, lane: lane.id, as }]);
};
