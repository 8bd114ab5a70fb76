import { useSyncExternalStore } from "react";

/** A short message over the view. */
export interface Toast {
  key: string;
  text: string;
  detail: string | undefined;
  kind: "told" | "fault";
  /** What can be done about it. */
  action: { label: string; act: () => void } | undefined;
}

interface Options {
  /** A message takes the place of one with the same key. */
  key?: string;
  detail?: string;
  kind?: Toast["kind"];
  action?: NonNullable<Toast["action"]>;
  seconds?: number;
}

const most = 4;
let toasts: readonly Toast[] = [];
let count = 0;
const watchers = new Set<() => void>();
const timers = new Map<string, ReturnType<typeof setTimeout>>();

function set(next: readonly Toast[]): void {
  toasts = next;
  for (const watcher of watchers) watcher();
}

/** Tells something that stays for some seconds, longer when something can be done about it. */
export function toast(text: string, options: Options = {}): void {
  const { kind = "told", action, detail } = options;
  const key = options.key ?? `toast ${++count}`;
  const seconds = options.seconds ?? (action ? 12 : kind === "fault" ? 7 : 4);
  clearTimeout(timers.get(key));
  timers.set(
    key,
    setTimeout(() => dismiss(key), seconds * 1000),
  );
  set([...toasts.filter((other) => other.key !== key), { key, text, detail, kind, action }].slice(-most));
}

export function dismiss(key: string): void {
  clearTimeout(timers.get(key));
  timers.delete(key);
  set(toasts.filter((other) => other.key !== key));
}

export const useToasts = (): readonly Toast[] =>
  useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => toasts,
  );
