/** What a lane of free notes is seen and handled by. */
export { draw } from "./draw";
export { begin, pointer } from "./gestures";
