import { graphemes } from "../words/graphemes";

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
  "FnLock",
  "Hyper",
  "Super",
  "Symbol",
  "SymbolLock",
  "Dead",
  "Compose",
  "Process",
  "Unidentified",
]);

/** The engine's name for a key press; undefined for a key that says nothing. */
export function keyName(event: KeyboardEvent): string | undefined {
  if (event.isComposing || silent.has(event.key)) return undefined;
  const typed = isText(event.key);
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

/** Whether a key types one grapheme. */
export const isTyped = (key: string): boolean => graphemes(key).length === 1;

/** Whether a key types text: one grapheme, or the several letters that one key of some keyboards types. */
export const isText = (key: string): boolean => isTyped(key) || (key !== "" && !/^[A-Z]/.test(key));

/** A key with the modifiers that are held. */
export interface Chord {
  name: string;
  ctrl: boolean;
  alt: boolean;
  shift: boolean;
  meta: boolean;
}

export function chordOf(key: string): Chord {
  const chord: Chord = { name: key, ctrl: false, alt: false, shift: false, meta: false };
  const held = { "Ctrl+": "ctrl", "Alt+": "alt", "Shift+": "shift", "Meta+": "meta" } as const;
  for (const [prefix, modifier] of Object.entries(held))
    if (chord.name.length > prefix.length && chord.name.startsWith(prefix)) {
      chord[modifier] = true;
      chord.name = chord.name.slice(prefix.length);
    }
  return chord;
}

export const movesCaret = new Set([
  "ArrowLeft",
  "ArrowRight",
  "ArrowUp",
  "ArrowDown",
  "Home",
  "End",
  "PageUp",
  "PageDown",
]);

/** Chords that edit a field; the browser does these on command. */
export const commands: Readonly<Record<string, string>> = {
  "Ctrl+A": "selectAll",
  "Ctrl+C": "copy",
  "Ctrl+X": "cut",
  "Ctrl+Z": "undo",
  "Ctrl+Y": "redo",
  "Ctrl+Shift+Z": "redo",
  "Ctrl+B": "bold",
  "Ctrl+I": "italic",
  "Ctrl+U": "underline",
};

const acting = new Set(["Enter", "Tab", "Escape", "Backspace", "Delete"]);

/** Whether all that the browser does on a key can be done for it later; other keys stay with the browser. */
export function canPress(key: string): boolean {
  if (isText(key) || key in commands) return true;
  const { name, alt, meta } = chordOf(key);
  return !alt && !meta && (movesCaret.has(name) || acting.has(name));
}
