import { describe, expect, test } from "vitest";
import { graphemes, shortened, unitsOfLast } from "../words/graphemes";
import { keyName } from "../ui/keys";

describe("graphemes", () => {
  test.each([
    ["abc", 2, 2],
    ["a👩‍👩‍👧", 1, 8],
    ["xe\u0301", 1, 2],
    ["ab", 9, 2],
    ["ab", 0, 0],
  ])("the last of %j", (text, count, units) => expect(unitsOfLast(text, count)).toBe(units));

  test.each([
    ["abc", 3, "abc"],
    ["abcd", 3, "abc…"],
    ["🇸🇪🇳🇴", 2, "🇸🇪🇳🇴"],
    ["👩‍👩‍👧👩‍👩‍👧x", 1, "👩‍👩‍👧…"],
  ])("%j is cut between them", (text, most, cut) => expect(shortened(text, most)).toBe(cut));

  test("a flag is one", () => expect(graphemes("🇸🇪🇳🇴")).toEqual(["🇸🇪", "🇳🇴"]));
});

describe("key names", () => {
  const press = (key: string, held: Partial<Record<"ctrl" | "alt" | "shift" | "meta" | "altGraph", boolean>> = {}) =>
    keyName({
      key,
      isComposing: false,
      ctrlKey: held.ctrl ?? false,
      altKey: held.alt ?? false,
      shiftKey: held.shift ?? false,
      metaKey: held.meta ?? false,
      getModifierState: (name: string) => name === "AltGraph" && (held.altGraph ?? false),
    } as KeyboardEvent);

  test.each([
    [press("a"), "a"],
    [press("A", { shift: true }), "A"],
    [press("d", { ctrl: true, alt: true }), "Ctrl+Alt+D"],
    [press("€", { ctrl: true, alt: true, altGraph: true }), "€"],
    [press("Enter"), "Enter"],
    [press("Enter", { shift: true }), "Shift+Enter"],
    [press("z", { ctrl: true, shift: true }), "Ctrl+Shift+Z"],
    [press("Shift", { shift: true }), undefined],
    [press("Dead"), undefined],
  ])("%j", (name, wanted) => expect(name).toBe(wanted));
});
