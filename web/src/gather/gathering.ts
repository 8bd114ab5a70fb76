import { shortened } from "../words/graphemes";
/** What a gathered snippet begins with. */
export interface GatherStart {
  name?: string;
  text?: string;
  /** Whether the system's clipboard may be read for the text, where the browser lets it. */
  mayRead?: boolean;
  /** A body that is not to be edited here, such as recorded keys. */
  html?: string;
}

const listeners = new Set<(start: GatherStart) => void>();

export function openGather(start: GatherStart): void {
  for (const listener of listeners) listener(start);
}

export function onGather(listener: (start: GatherStart) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** A name for recorded keys: when they were recorded. */
export function recordedName(): string {
  return `Recorded at ${new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
}

/** A name for a phrase: its first words. */
export function nameOf(text: string): string {
  // A slash separates the parts of a path, so no name has one.
  const words = text.replaceAll("/", " ").trim().split(/\s+/).slice(0, 5).join(" ");
  return shortened(words, 40) === words ? words.replace(/[.,;:!?]+$/, "") : shortened(words, 39);
}

/** A single word without capitals is most likely a spelling that is put right: Adn is to give And then. */
export const isCorrection = (text: string): boolean => /^\p{Ll}[\p{Ll}\p{M}'’-]*$/u.test(text.trim());
