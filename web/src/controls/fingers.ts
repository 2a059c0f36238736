/** How long a finger rests before it does what Shift does with a mouse, in ms; and how far it may stray, in pixels. */
const LONG = 450;
const STRAY = 8;

/** How far two fingers go for a turn of the wheel, in pixels, and how far apart for a step of the zoom. */
const TURN = 16;
const PINCH = 1.18;

interface Finger {
  x: number;
  y: number;
  target: Element;
}

/**
 * Lets fingers do on drawings what a mouse does: two scroll, and zoom as they are spread; one that rests a moment
 * does what Shift does, such as selecting a box. What is drawn takes one finger as it takes the mouse.
 */
export function watchFingers(): () => void {
  const fingers = new Map<number, Finger>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** The finger that does what Shift does. */
  let long: number | null = null;
  let [scrolled, spread] = [{ x: 0, y: 0 }, 1];

  const as = (e: PointerEvent | Finger, type: string, id: number, shiftKey: boolean) => {
    const at = "clientX" in e ? { clientX: e.clientX, clientY: e.clientY } : { clientX: e.x, clientY: e.y };
    return new PointerEvent(type, {
      ...at,
      pointerId: id,
      pointerType: "mouse",
      bubbles: true,
      cancelable: true,
      button: 0,
      buttons: type === "pointerup" ? 0 : 1,
      shiftKey,
    });
  };
  const drawing = (e: PointerEvent) =>
    e.pointerType === "touch" && e.target instanceof HTMLCanvasElement ? e.target : null;
  const middle = () => {
    const [a, b] = [...fingers.values()] as [Finger, Finger];
    return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, apart: Math.hypot(a.x - b.x, a.y - b.y) };
  };
  const wheel = (target: Element, init: WheelEventInit) =>
    target.dispatchEvent(new WheelEvent("wheel", { bubbles: true, cancelable: true, ...init }));

  const down = (e: PointerEvent) => {
    const target = drawing(e);
    if (!target) return;
    clearTimeout(timer);
    const own: Finger = { x: e.clientX, y: e.clientY, target };
    fingers.set(e.pointerId, own);
    if (fingers.size === 1) {
      timer = setTimeout(() => {
        long = e.pointerId;
        target.dispatchEvent(as(own, "pointercancel", e.pointerId, false));
        target.dispatchEvent(as(own, "pointerdown", e.pointerId, true));
      }, LONG);
      return;
    }
    e.stopPropagation();
    [scrolled, spread] = [{ x: 0, y: 0 }, 1];
    long = null;
    for (const [id, finger] of fingers) finger.target.dispatchEvent(as(finger, "pointercancel", id, false));
  };

  const move = (e: PointerEvent) => {
    const finger = fingers.get(e.pointerId);
    if (!finger || !e.isTrusted) return;
    if (fingers.size === 1) {
      if (Math.hypot(e.clientX - finger.x, e.clientY - finger.y) > STRAY) clearTimeout(timer);
      if (long === e.pointerId) {
        e.stopPropagation();
        finger.target.dispatchEvent(as(e, "pointermove", e.pointerId, true));
      }
      return;
    }
    e.stopPropagation();
    const was = middle();
    Object.assign(finger, { x: e.clientX, y: e.clientY });
    const now = middle();
    scrolled.x += was.x - now.x;
    scrolled.y += was.y - now.y;
    spread *= now.apart / Math.max(was.apart, 1);
    if (spread > PINCH || spread < 1 / PINCH) {
      wheel(finger.target, { ctrlKey: true, deltaY: spread > 1 ? -1 : 1, clientX: now.x, clientY: now.y });
      spread = 1;
    }
    if (Math.abs(scrolled.x) > 2) {
      wheel(finger.target, { deltaX: scrolled.x });
      scrolled.x = 0;
    }
    if (Math.abs(scrolled.y) > TURN) {
      wheel(finger.target, { deltaY: scrolled.y });
      scrolled.y = 0;
    }
  };

  const up = (e: PointerEvent) => {
    const finger = fingers.get(e.pointerId);
    if (!finger || !e.isTrusted) return;
    clearTimeout(timer);
    if (fingers.size > 1) e.stopPropagation();
    else if (long === e.pointerId) {
      e.stopPropagation();
      finger.target.dispatchEvent(as(e, "pointerup", e.pointerId, true));
    }
    fingers.delete(e.pointerId);
    long = null;
  };

  const all = [
    ["pointerdown", down],
    ["pointermove", move],
    ["pointerup", up],
    ["pointercancel", up],
  ] as const;
  for (const [name, act] of all) window.addEventListener(name, act, true);
  return () => {
    for (const [name, act] of all) window.removeEventListener(name, act, true);
  };
}
