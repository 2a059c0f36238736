/** Where the wheel zooms and scrolls by itself. */
const OWN = "[data-zooms]";

/**
 * Keeps the browser from zooming the page, and from leaving it by a sideways swipe, where the wheel is ours. Listeners
 * that components add may not prevent that.
 */
export function watchWheels(): () => void {
  const wheel = (e: WheelEvent) => {
    if (!(e.target as Element | null)?.closest?.(OWN)) return;
    if (e.ctrlKey || e.metaKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) e.preventDefault();
  };
  window.addEventListener("wheel", wheel, { passive: false });
  return () => window.removeEventListener("wheel", wheel);
}
