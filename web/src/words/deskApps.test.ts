import { expect, test } from "vitest";
import { closed, firstArrangement, isAddress, moved, opened, titleOf } from "./deskApps";

test("windows open at the end, once, and close", () => {
  const more = opened(opened(firstArrangement, "files"), "post");
  expect(more.open).toEqual(["post", "log-book", "radio-chat", "console", "files"]);
  expect(closed(more, "log-book").open).toEqual(["post", "radio-chat", "console", "files"]);
});

test("a window that fills the desk gives way to the one that is opened, and is gone when it is closed", () => {
  const filled = { ...firstArrangement, filled: "post" as const };
  expect(opened(filled, "console").filled).toBe("console");
  expect(closed(filled, "post").filled).toBeNull();
  expect(closed(filled, "console").filled).toBe("post");
});

test("windows move by one place and stop at the ends", () => {
  expect(moved(firstArrangement, "console", -1).open).toEqual(["post", "log-book", "console", "radio-chat"]);
  expect(moved(firstArrangement, "post", -1)).toBe(firstArrangement);
  expect(moved(firstArrangement, "console", 1)).toBe(firstArrangement);
  expect(moved(firstArrangement, "files", 1)).toBe(firstArrangement);
});

test("web and mail addresses go to the tabs, everything else to the files", () => {
  const targets = [
    "https://example.org",
    "HTTP://example.org",
    "mailto:a@example.org",
    "file:///a/b.ods",
    "app:console",
  ];
  expect(targets.map(isAddress)).toEqual([true, true, true, false, false]);
});

test.each([
  ["file:///home/clerk/dues%202026.ods", "dues 2026.ods"],
  ["file:///home/clerk/100%.pdf", "100%.pdf"],
  ["file:///home/clerk/%E0%A4%A", "%E0%A4%A"],
  ["file:///home/clerk/letters/", "letters"],
  ["https://example.org/tides", "example.org"],
  ["https://", "https://"],
  ["mailto:harbour@example.org?subject=x", "Letter to harbour@example.org"],
  ["app:console", "Application console"],
])("what was opened at %s is called %s", (target, title) => {
  expect(titleOf(target)).toBe(title);
});
