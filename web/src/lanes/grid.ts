/** What playing notes in asks of a lane of free notes: its grid, its axis, and what was added last. */
export { onAxis } from "./notes/axis";
export { selectNewest } from "./notes/gestures";
export { lengthOfNew, nearest } from "./notes/state";
