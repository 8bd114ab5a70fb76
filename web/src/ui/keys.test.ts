import { describe, expect, test } from "vitest";
import { canPress, chordOf, isText, isTyped } from "./keys";

describe("what a key is", () => {
  test.each([
    ["a", true, true],
    ["é", true, true],
    ["👩‍👩‍👧", true, true],
    ["لا", false, true],
    ["Enter", false, false],
    ["ArrowLeft", false, false],
    ["Ctrl+A", false, false],
    ["A", true, true],
    ["+", true, true],
    ["", false, false],
  ])("%s", (key, typed, text) => {
    expect(isTyped(key)).toBe(typed);
    expect(isText(key)).toBe(text);
  });

  test.each([
    ["Ctrl+Alt+Shift+Meta+K", { name: "K", ctrl: true, alt: true, shift: true, meta: true }],
    ["Shift+Enter", { name: "Enter", ctrl: false, alt: false, shift: true, meta: false }],
    ["Ctrl++", { name: "+", ctrl: true, alt: false, shift: false, meta: false }],
    ["Tab", { name: "Tab", ctrl: false, alt: false, shift: false, meta: false }],
    ["+", { name: "+", ctrl: false, alt: false, shift: false, meta: false }],
  ])("the parts of %s", (key, parts) => expect(chordOf(key)).toEqual(parts));
});

describe("which keys can be done later", () => {
  const can = [
    "a",
    "لا",
    "Enter",
    "Shift+Enter",
    "Tab",
    "Shift+Tab",
    "Escape",
    "Backspace",
    "Ctrl+Backspace",
    "Delete",
    "Ctrl+Delete",
    "ArrowUp",
    "Shift+ArrowDown",
    "Ctrl+Shift+ArrowLeft",
    "Ctrl+Home",
    "PageDown",
    "Ctrl+A",
    "Ctrl+Z",
    "Ctrl+Shift+Z",
    "Ctrl+X",
  ];
  // The browser alone can print, find, reload, go back, or paste.
  const cannot = [
    "Ctrl+P",
    "Ctrl+F",
    "F5",
    "Alt+ArrowLeft",
    "Ctrl+V",
    "Meta+ArrowLeft",
    "Ctrl+Alt+Z",
    "Ctrl+T",
    "Insert",
  ];
  test.each(can)("%s can", (key) => expect(canPress(key)).toBe(true));
  test.each(cannot)("%s cannot", (key) => expect(canPress(key)).toBe(false));
});
