/** Signs that keys are named by, wherever they stand on a keyboard. */
const SIGNS = "?[]<>,./=;'-+";

const isLetter = (key: string): boolean => /^[a-z]$/i.test(key);

/**
 * The key that was pressed, as keys are named here, whatever the keyboard: letters by what they write, or by their
 * place where they write no Latin letter; capitals by Shift, not by CapsLock; digits by their place, since some
 * keyboards write them with Shift; signs by what they write, also with AltGr or Option.
 */
export function nameOfKey({ key, code, shiftKey }: Pick<KeyboardEvent, "key" | "code" | "shiftKey">): string {
  if (key.length !== 1 || key === " " || SIGNS.includes(key)) return key;
  const place = /^(?:Key|Digit|Numpad)([A-Z0-9])$/.exec(code)?.[1];
  const digit = /^(?:Digit|Numpad)\d$/.test(code) ? place! : "";
  if (digit) return digit;
  const letter = isLetter(key) ? key : key.charCodeAt(0) > 127 && place ? place : "";
  if (!letter) return key;
  return shiftKey ? letter.toUpperCase() : letter.toLowerCase();
}

/** Whether a sign is written by a key that is held for that: AltGr, or Option. */
const writes = (e: KeyboardEvent): boolean =>
  e.key.length === 1 && SIGNS.includes(e.key) && (e.getModifierState("AltGraph") || (e.altKey && !e.ctrlKey));

/** An event of the key that was pressed, as keys are named here. */
export function pressed(e: KeyboardEvent): KeyboardEvent {
  const free = writes(e);
  return new KeyboardEvent(e.type, {
    key: nameOfKey(e),
    code: e.code,
    shiftKey: e.shiftKey,
    altKey: e.altKey && !free,
    ctrlKey: e.ctrlKey && !free,
    metaKey: e.metaKey,
    repeat: e.repeat,
  });
}

/** What keys of places that were pressed write, as far as it is known: the keyboard's own, where the browser tells. */
const written = new Map<string, string>();

interface Layout {
  keyboard?: { getLayoutMap?: () => Promise<ReadonlyMap<string, string>> };
}

/** Asks which signs stand on the keyboard; told is called once that is known. */
export async function askForLayout(told: () => void): Promise<void> {
  try {
    const map = await (navigator as Layout).keyboard?.getLayoutMap?.();
    for (const [code, key] of map ?? []) written.set(code, key);
    if (map) told();
  } catch {
    // Then it is learned key by key.
  }
}

/** Learns from a press what a key writes, and tells whether that is new. */
export function learn({ key, code, shiftKey, altKey, ctrlKey, metaKey }: KeyboardEvent): boolean {
  if (!code || key.length !== 1 || shiftKey || altKey || ctrlKey || metaKey || written.get(code) === key) return false;
  written.set(code, key);
  return true;
}

/** The sign on a key, by its place: as it writes on this keyboard, or as usual. */
export function signOn(code: string, usual: string): string {
  const own = written.get(code);
  return own && /^[\p{L}\p{N}]$/u.test(own) ? own.toUpperCase() : usual;
}
