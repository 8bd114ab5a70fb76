import { expect, test } from "vitest";
import type { LearningSettings, Phrase } from "../api/client";
import { choiceWords, phrasesWith, sproutText, timesWords } from "./learningWords";

const settings = (part: Partial<LearningSettings>): LearningSettings => ({
  chosen: true,
  learns: false,
  offers: false,
  misses: false,
  scope: { mode: "everywhere", apps: [] },
  keepDays: 90,
  takeKey: "ArrowRight",
  ...part,
});

const phrase = (code: string, ...texts: string[]): Phrase => ({
  code,
  texts,
  times: 3,
  lastAt: "2026-03-02T09:00:00Z",
  apps: ["post"],
  dismissed: false,
});

test.each([
  [settings({}), "Nothing is done with what you type."],
  [settings({ offers: true }), "The rest of what you begin is offered in every application."],
  [
    settings({ learns: true, misses: true, scope: { mode: "only-in", apps: ["post", "log-book"] } }),
    "Phrases that come back are remembered and missed chances are said in Post, Log book only.",
  ],
  [
    settings({ learns: true, offers: true, misses: true, scope: { mode: "not-in", apps: ["Unknown"] } }),
    "Phrases that come back are remembered, the rest of what you begin is offered and missed chances are said everywhere but in Unknown.",
  ],
])("what is done with what is typed, in words", (given, words) => {
  expect(choiceWords(given)).toBe(words);
});

test("times in words", () => {
  expect([1, 2, 3].map(timesWords)).toEqual(["once", "twice", "3 times"]);
});

test("a text that varies names its gaps", () => {
  const parts = [
    { text: "Dear ", kind: null, texts: null },
    { text: null, kind: "name", texts: ["Tern", "Knot"] },
    { text: ", berth ", kind: null, texts: null },
    { text: null, kind: "number", texts: ["3", "4"] },
  ];
  expect(sproutText({ parts })).toBe("Dear ⟨name⟩, berth ⟨number⟩");
});

test("phrases are found by any of their texts, whatever the capitals", () => {
  const phrases = [phrase("1", "Thank you for coming"), phrase("2", "Dear Tern, hello", "Dear Knot, hello")];
  expect(phrasesWith(phrases, " THANK ").map(({ code }) => code)).toEqual(["1"]);
  expect(phrasesWith(phrases, "tern").map(({ code }) => code)).toEqual(["2"]);
  expect(phrasesWith(phrases, "")).toBe(phrases);
});
