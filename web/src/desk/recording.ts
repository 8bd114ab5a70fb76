const listeners = new Set<() => void>();

/** Begins or ends a recording, where there is something to record on; false where there is not. */
export function toggleRecording(): boolean {
  for (const listener of listeners) listener();
  return listeners.size > 0;
}

/** Has a recording begun or ended by the chord; gives the way to stop that. */
export function onToggleRecording(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
