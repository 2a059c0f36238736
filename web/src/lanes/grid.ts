/** What playing notes in asks of a lane of free notes: its grid, its axis, and what was added last. */
export { onAxis } from "./notes/axis";
export { lengthOfNew, nearest, selectNewest } from "./notes/state";
