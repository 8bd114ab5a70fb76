// @vitest-environment jsdom
import { beforeEach, expect, test, vi } from "vitest";
import type { Unsaved } from "./saving";

/** The browser's locks, as all tabs of it share them. */
class Locks {
  readonly held = new Set<string>();

  request = async (name: string, ...rest: unknown[]): Promise<unknown> => {
    const work = rest.at(-1) as (lock: object | null) => unknown;
    if (this.held.has(name)) return work(null);
    this.held.add(name);
    try {
      return await work({ name });
    } finally {
      this.held.delete(name);
    }
  };

  query = async () => ({ held: [...this.held].map((name) => ({ name })) });
}

let locks: Locks;
let tabs: string[];

/** Opens a tab: the module as it is loaded anew, with the store and the locks that all tabs share. */
async function openTab(): Promise<typeof import("./unsavedWork") & { close: () => void }> {
  vi.resetModules();
  const before = new Set(locks.held);
  const tab = await import("./unsavedWork");
  const name = [...locks.held].find((other) => !before.has(other))!;
  tabs.push(name);
  return { ...tab, close: () => locks.held.delete(name) };
}

const work = (text: string): Unsaved => ({ kept: {}, draft: { text }, slots: [] });

beforeEach(() => {
  localStorage.clear();
  locks = new Locks();
  tabs = [];
  vi.stubGlobal("navigator", { locks });
});

test("a clean tab does not delete what another one has, also when that was closed", async () => {
  const first = await openTab();
  first.keepUnsaved(7, work("mine"));
  const second = await openTab();
  second.keepUnsaved(7, undefined);
  expect(first.unsavedOf(7)).toEqual(work("mine"));
  await second.takeOverUnsaved();
  expect(second.unsavedIds()).toEqual([]);
  first.close();
  second.keepUnsaved(7, undefined);
  await second.takeOverUnsaved();
  expect(second.unsavedOf(7)).toEqual(work("mine"));
});

test("of two tabs that look at once, one takes it over", async () => {
  const gone = await openTab();
  gone.keepUnsaved(7, work("mine"));
  const [one, other] = [await openTab(), await openTab()];
  gone.close();
  await Promise.all([one.takeOverUnsaved(), other.takeOverUnsaved()]);
  expect([one.unsavedOf(7), other.unsavedOf(7)].filter(Boolean)).toEqual([work("mine")]);
});

test("work on the same snippet by two tabs that were closed comes one after the other", async () => {
  const [one, other] = [await openTab(), await openTab()];
  one.keepUnsaved(7, work("one"));
  other.keepUnsaved(7, work("other"));
  one.close();
  other.close();
  const here = await openTab();
  await here.takeOverUnsaved();
  const first = here.unsavedOf(7);
  here.keepUnsaved(7, undefined);
  await here.takeOverUnsaved();
  expect(new Set([first?.draft.text, here.unsavedOf(7)?.draft.text])).toEqual(new Set(["one", "other"]));
});

test("work from before tabs had names is found", async () => {
  localStorage.setItem("dash-sprout.unsaved.7", JSON.stringify(work("old")));
  const here = await openTab();
  await here.takeOverUnsaved();
  expect(here.unsavedOf(7)).toEqual(work("old"));
});
