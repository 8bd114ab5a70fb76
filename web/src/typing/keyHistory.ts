import { useSyncExternalStore } from "react";
import type { Trace } from "../api/client";
import { typingSession } from "./TypingSession";

/** A key that was typed here, and what the engine made of it. Kept in this page only. */
export interface PastKey {
  id: number;
  app: string;
  key: string;
  trace: Trace;
}

const most = 60;
let past: readonly PastKey[] = [];
let count = 0;
const watchers = new Set<() => void>();

/** The chord that opens the explanation is not part of what is to be explained. */
export const whyChord = "Ctrl+Alt+W";

typingSession.onDecided(({ app, secret, key, decision }) => {
  if (secret || !decision.trace || key === "" || key === whyChord) return;
  past = [...past.slice(1 - most), { id: ++count, app, key, trace: decision.trace }];
  for (const watcher of watchers) watcher();
});

export const useKeyHistory = (): readonly PastKey[] =>
  useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => past,
  );

/** The text typed since the tail last began anew. */
export function typedTail(keys: readonly PastKey[]): string {
  let text = "";
  for (const { key, trace } of keys) {
    if (trace.event === "reset" || trace.event === "fires") text = "";
    else if (key === "Backspace") text = text.slice(0, -1);
    else if (key === "Enter") text += "\n";
    else if (key === "Tab") text += "\t";
    else if (key.length <= 2) text += key;
  }
  return text;
}
