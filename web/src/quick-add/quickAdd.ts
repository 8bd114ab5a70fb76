/** What a quickly added snippet begins with. */
export interface QuickAddStart {
  name?: string;
  text?: string;
  /** A body that is not to be edited here, such as recorded keys. */
  html?: string;
}

const listeners = new Set<(start: QuickAddStart) => void>();

export function openQuickAdd(start: QuickAddStart): void {
  for (const listener of listeners) listener(start);
}

export function onQuickAdd(listener: (start: QuickAddStart) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** A name for recorded keys: when they were recorded. */
export function recordedName(): string {
  return `Recorded at ${new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
}

/** A name for a phrase: its first words. */
export function nameOf(text: string): string {
  const words = text.trim().split(/\s+/).slice(0, 5).join(" ");
  return words.length > 40 ? `${words.slice(0, 39)}…` : words.replace(/[.,;:!?]+$/, "");
}
