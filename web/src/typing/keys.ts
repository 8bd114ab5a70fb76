import { graphemes } from "./graphemes";

const silent = new Set([
  "Shift",
  "Control",
  "Alt",
  "AltGraph",
  "Meta",
  "CapsLock",
  "NumLock",
  "ScrollLock",
  "Fn",
  "Dead",
  "Compose",
  "Process",
  "Unidentified",
]);

/** The engine's name for a key press; undefined for a key that says nothing. */
export function keyName(event: KeyboardEvent): string | undefined {
  if (event.isComposing || silent.has(event.key)) return undefined;
  const typed = graphemes(event.key).length === 1;
  // AltGr arrives as Ctrl+Alt on some systems, with the typed character as its key.
  const altGr = event.getModifierState("AltGraph");
  const ctrl = event.ctrlKey && !altGr;
  const alt = event.altKey && !altGr;
  if (typed && !ctrl && !alt && !event.metaKey) return event.key;
  const shift = event.shiftKey && (!typed || ctrl || alt || event.metaKey);
  if (!ctrl && !alt && !shift && !event.metaKey) return event.key;
  const key = typed ? event.key.toUpperCase() : event.key;
  return `${ctrl ? "Ctrl+" : ""}${alt ? "Alt+" : ""}${shift ? "Shift+" : ""}${event.metaKey ? "Meta+" : ""}${key}`;
}

export const isTyped = (key: string): boolean => graphemes(key).length === 1;
