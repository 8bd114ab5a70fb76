import { expect, test } from "vitest";
import { perTenThousand, ruleAddress } from "./safetyWords";
import { chosenRules, defaultEdge, keyLabel, scopeWords } from "./ruleWords";

test("only what differs from what holds anyway counts as chosen", () => {
  expect([...chosenRules({ kind: "abbreviation", text: ";bc", leftEdge: "space", case: "either" })]).toEqual([]);
  expect([...chosenRules({ kind: "abbreviation", text: "bc", leftEdge: "space", timing: "at-once" })]).toEqual([
    "leftEdge",
    "timing",
  ]);
  expect([
    ...chosenRules({ kind: "abbreviation", text: "bc", timing: "double-closing-key", keepClosingKey: true }),
  ]).toEqual(["timing", "keep"]);
  expect([...chosenRules({ text: "bc", case: "mirror", scope: { mode: "only-in", apps: ["post"] } })]).toEqual([
    "case",
    "scope",
  ]);
});

test("the left edge follows the first character", () => {
  expect(["bc", "É", "7up", ";bc", "/fee", "🙂"].map(defaultEdge)).toEqual([
    "word",
    "word",
    "word",
    "space",
    "space",
    "space",
  ]);
});

test("keys, scopes, rates and addresses in words", () => {
  expect([" ", "Ctrl+Alt+ ", "Tab", "Ctrl+Alt+D"].map(keyLabel)).toEqual([
    "Space",
    "Ctrl+Alt+Space",
    "Tab",
    "Ctrl+Alt+D",
  ]);
  expect(scopeWords({ scope: { mode: "not-in", apps: ["fee-sheet", "other"] } })).toBe("not Fee sheet, other");
  expect([0, 0.004, 0.25, 783.6].map(perTenThousand)).toEqual(["never", "under 0.01", "0.25", "784"]);
  expect(ruleAddress(7, ";b c", "timing")).toBe("/snippets/7?trigger=%3Bb%20c&rule=timing");
});
