import { anythingOpen } from "./opening";

/* Who has the keys. They belong to the sheet, unless one types in a field, is in a menu or a
 * dialog, or has come to a control by keyboard: what the mouse presses never keeps them. */

const typed = "input:not([type]), input[type=text], input[type=search], input[type=number], textarea";
const pressed = "button, a, summary, [role=tab], input[type=checkbox], input[type=radio], input[type=file]";
/** What is set by more than a press: it gives the keys back once it is set. */
const set = "select, input[type=range]";
const dialog = "[aria-modal=true]";
const opened = "[role=menu], [role=dialog]";

/** What the last thing was done with: the mouse (or a pen, or a finger), Tab, or another key. */
type Hand = "mouse" | "tab" | "key";
let by: Hand = "key";
/** What it was done to. */
let under: Element | null = null;
/** By what the focus came to where it is. */
let reached: Hand = "key";
/** Whether the press under way only leaves a field, or closes what was open. */
let leaving = false;

/** Where the hand did something last, on screen; null: on the keys. */
let hand: { x: number; y: number } | null = null;

/** Where the hand did something last: what is said about it is said there. */
export const lastHand = (): typeof hand => hand;

const isTyped = (el: Element | null): el is HTMLElement => el instanceof HTMLElement && el.matches(typed);

/** Gives the keys to the sheet, where one is; false: a dialog keeps them. */
export function giveBack(): boolean {
  if (document.querySelector(dialog)) return false;
  const sheet = document.querySelector<HTMLElement>("[data-sheet]");
  if (sheet) sheet.focus({ preventScroll: true });
  else if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  return true;
}

/** Whether a key is for what has the focus and not for the page. */
export function keepsKey(e: KeyboardEvent): boolean {
  const at = e.target instanceof Element ? e.target : document.body;
  if (isTyped(at) || at.closest(`${opened}, ${dialog}`)) return true;
  if (reached === "mouse") return false;
  return at.matches(set) || (!!at.closest(pressed) && (e.key === "Enter" || e.key === " "));
}

/** Whether Space and Enter in a dialog are for the dialog, and not for what has the focus: that is no field, and
 * nobody came to it by Tab. */
export const forDialog = (at: EventTarget): boolean =>
  at instanceof HTMLElement && !at.matches(`${typed}, ${set}`) && reached !== "tab";

/** Whether the press under way is spent: it leaves a field or closes what was open, and does
 * nothing else to what it meets. */
export const spent = (): boolean => leaving;

/** Lets Esc do something, before it does anything else. Gives what ends it. */
export function onEscape(act: () => void): () => void {
  const key = (e: KeyboardEvent) => {
    if (e.key !== "Escape") return;
    e.preventDefault();
    e.stopPropagation();
    act();
  };
  document.addEventListener("keydown", key, true);
  return () => document.removeEventListener("keydown", key, true);
}

/** Watches how the page is handled. Gives what ends it. */
export function watchHands(): () => void {
  const down = (e: PointerEvent) => {
    const had = document.activeElement;
    const on = e.target instanceof Element ? e.target : document.body;
    by = "mouse";
    under = on;
    hand = { x: e.clientX, y: e.clientY };
    leaving = anythingOpen() && !on.closest(opened);
    if (!(had instanceof HTMLElement) || had.contains(on) || on.closest(dialog)) return;
    if (isTyped(had)) {
      // It is sent before the press changes what it would be sent to.
      leaving = true;
      had.blur();
    }
  };
  const again = (e: MouseEvent) => {
    // A button that has the focus already gets none by being pressed; what is dragged is let go.
    const on = e.target instanceof Element ? e.target.closest(`${pressed}, input[type=range]`) : null;
    if (by === "mouse" && on && on === document.activeElement && !isTyped(on) && !on.closest(`${opened}, ${dialog}`))
      giveBack();
  };
  const lift = (e: PointerEvent) => (hand = { x: e.clientX, y: e.clientY });
  const key = (e: KeyboardEvent) => {
    const at = isTyped(document.activeElement) ? document.activeElement.getBoundingClientRect() : null;
    hand = at && { x: at.left, y: at.bottom };
    if (!["Shift", "Control", "Alt", "Meta"].includes(e.key)) by = e.key === "Tab" ? "tab" : "key";
  };
  const focus = (e: FocusEvent) => {
    const on = e.target instanceof Element ? e.target : document.body;
    reached = by;
    if (by !== "mouse" || !on.matches(pressed) || on.closest(`[role=menu], ${dialog}`)) return;
    // A panel that opens gives the focus to its first control, for the keyboard to go on from.
    if (!on.closest(opened) || on.contains(under)) giveBack();
  };
  const chosen = (e: Event) => {
    if (by === "mouse" && e.target instanceof Element && e.target.matches(set)) giveBack();
  };
  document.addEventListener("pointerdown", down, true);
  document.addEventListener("pointerup", lift, true);
  document.addEventListener("click", again);
  document.addEventListener("keydown", key, true);
  document.addEventListener("focusin", focus);
  document.addEventListener("change", chosen);
  return () => {
    document.removeEventListener("pointerdown", down, true);
    document.removeEventListener("pointerup", lift, true);
    document.removeEventListener("click", again);
    document.removeEventListener("keydown", key, true);
    document.removeEventListener("focusin", focus);
    document.removeEventListener("change", chosen);
  };
}
