import { readKept } from "../ui/browserStore";
import type { Unsaved } from "./saving";

const prefix = "dash-sprout.unsaved.";
const lockOf = (tab: string) => `dash-sprout.tab.${tab}`;

/** Work of the time when it did not say whose it is. */
const nobodys = "0";

/** This tab, from when it was loaded until it goes: another load of the same tab is another one. */
const tab = `${Date.now().toString(36)}${Math.random().toString(36).slice(2, 8)}`;

const keyOf = (owner: string, id: number) => `${prefix}${owner}.${id}`;

/** Keeps unsaved work of this tab, or forgets it; false when it cannot be kept. No tab touches what is another's. */
export function keepUnsaved(id: number, work: Unsaved | undefined): boolean {
  try {
    if (work) localStorage.setItem(keyOf(tab, id), JSON.stringify(work));
    else localStorage.removeItem(keyOf(tab, id));
    return true;
  } catch {
    // The browser's store is full: leaving asks then.
    return false;
  }
}

/** Unsaved work on a snippet that this tab has. */
export const unsavedOf = (id: number): Unsaved | undefined => readKept(keyOf(tab, id)) as Unsaved | undefined;

/** Ids of the snippets on which this tab has unsaved work. */
export const unsavedIds = (): number[] =>
  kept()
    .filter((one) => one.owner === tab)
    .map((one) => one.id);

/**
 * Takes over the unsaved work of tabs that were closed: each by one of those that are open, and one at a time for each snippet.
 * A tab holds a lock of the browser's as long as it is there; where the browser has none, all others count as closed.
 * @param take Told of each that is taken over; false when this tab cannot take it now, and then it stays where it is.
 */
export async function takeOverUnsaved(take: (id: number, work: Unsaved) => boolean = () => true): Promise<void> {
  await here;
  const { locks } = navigator as Partial<Pick<Navigator, "locks">>;
  const open = new Set((await locks?.query())?.held?.map((lock) => lock.name) ?? []);
  const move = (key: string, id: number) => {
    const work = readKept(key) as Unsaved | undefined;
    if (!work || localStorage.getItem(keyOf(tab, id)) !== null || !take(id, work)) return;
    keepUnsaved(id, work);
    localStorage.removeItem(key);
  };
  for (const { owner, id, key } of kept()) {
    if (owner === tab || open.has(lockOf(owner))) continue;
    // Of two tabs that look at the same time, one has the lock.
    if (locks) await locks.request(lockOf(owner), { ifAvailable: true }, (lock) => lock && move(key, id));
    else move(key, id);
  }
}

function kept(): { owner: string; id: number; key: string }[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(prefix))
    .map((key) => {
      const words = key.slice(prefix.length).split(".");
      return { owner: words.length > 1 ? words[0]! : nobodys, id: Number(words.at(-1)), key };
    })
    .filter((one) => Number.isSafeInteger(one.id));
}

/** Settled once this tab has its lock, or the browser has none; the lock is held until the tab goes. */
const here = new Promise<void>((ready) => {
  const { locks } = navigator as Partial<Pick<Navigator, "locks">>;
  if (!locks) return ready();
  void locks.request(lockOf(tab), () => {
    ready();
    return new Promise<never>(() => undefined);
  });
});
