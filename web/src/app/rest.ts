import { useSheet } from "../state/sheet";
import { useApp } from "../state/store";
import { underway } from "../underway";

/** Whether nothing is under way: no edit, no question, no part that is loaded, nothing that moves in. */
function idle(): boolean {
  const { bars } = useSheet.getState();
  const { view } = useApp.getState();
  return (
    underway() === 0 &&
    document.fonts.status === "loaded" &&
    !document.querySelector("[data-later]") &&
    (bars > 0 || !view || !document.querySelector("[data-sheet]")) &&
    !document.getAnimations().some((a) => a.playState === "running")
  );
}

/** Where all that is pressed stands. */
const places = (): string =>
  [...document.querySelectorAll("[data-row], canvas, [role=dialog], section, aside")]
    .map((e) => {
      const box = e.getBoundingClientRect();
      return `${box.left} ${box.top} ${box.width} ${box.height}`;
    })
    .join();

/** Waits until the page is at rest: nothing is under way, and all stands where it did a frame ago. Whoever drives
 * the page from outside waits for it before each gesture. */
export function atRest(): Promise<void> {
  return new Promise((done) => {
    let was: string | null = null;
    const look = () => {
      const now = idle() ? places() : null;
      if (now !== null && now === was) return done();
      was = now;
      requestAnimationFrame(look);
    };
    look();
  });
}
