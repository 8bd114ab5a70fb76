import { beforeEach, expect, test, vi } from "vitest";

beforeEach(() => vi.resetModules());

const fresh = async () => (await import("./pageClipboard")).pageClipboard;

test("a text that passes through is seen, and what was there before comes back", async () => {
  const clipboard = await fresh();
  clipboard.copied("mine");
  clipboard.setForDelivery("one");
  clipboard.setForDelivery("two");
  expect(clipboard.current.plain).toBe("two");
  clipboard.endDelivery(true);
  expect(clipboard.current.plain).toBe("mine");
  expect(clipboard.snapshot().entries.map((clip) => `${clip.plain} ${clip.from}`)).toEqual([
    "mine copied",
    "two snippet",
    "one snippet",
  ]);
});

test("a text that is left stays", async () => {
  const clipboard = await fresh();
  clipboard.copied("mine");
  clipboard.setForDelivery("left");
  clipboard.endDelivery(false);
  clipboard.endDelivery(true);
  expect(clipboard.current.plain).toBe("left");
});

test("a paste takes up what the system has copied meanwhile, and says when the page's is newer", async () => {
  const clipboard = await fresh();
  expect(clipboard.differsFrom("from elsewhere")).toBe(false);
  expect(clipboard.current.plain).toBe("from elsewhere");
  clipboard.setForDelivery("left");
  clipboard.endDelivery(false);
  expect(clipboard.differsFrom("from elsewhere")).toBe(true);
  expect(clipboard.differsFrom("copied later")).toBe(false);
});

test("an emptied clipboard is restored to nothing, and entries are limited", async () => {
  const clipboard = await fresh();
  clipboard.setForDelivery("passes");
  clipboard.endDelivery(true);
  expect(clipboard.current.plain).toBe("");
  for (let count = 0; count < 20; count++) clipboard.copied(`clip ${count}`);
  expect(clipboard.snapshot().entries).toHaveLength(12);
});
