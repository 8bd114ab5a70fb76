import { useSyncExternalStore } from "react";
import { readKept } from "../ui/browserStore";

/** Something that a snippet opened. */
export interface OpenedThing {
  id: number;
  target: string;
  at: string;
}

const isThing = (value: unknown): value is OpenedThing =>
  typeof (value as OpenedThing | null)?.target === "string" && typeof (value as OpenedThing).id === "number";

const key = "dash-sprout.desk.opened";
const most = 40;
const kept = readKept(key);
let things: readonly OpenedThing[] = Array.isArray(kept) ? (kept as OpenedThing[]).filter(isThing) : [];
const watchers = new Set<() => void>();

function change(next: readonly OpenedThing[]): void {
  things = next;
  localStorage.setItem(key, JSON.stringify(things));
  for (const watcher of watchers) watcher();
}

export function addOpened(target: string): void {
  const id = Math.max(0, ...things.map((thing) => thing.id)) + 1;
  const at = new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  change([...things.slice(1 - most), { id, target, at }]);
}

export const closeOpened = (id: number): void => change(things.filter((thing) => thing.id !== id));

export const useOpened = (): readonly OpenedThing[] =>
  useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => things,
  );
