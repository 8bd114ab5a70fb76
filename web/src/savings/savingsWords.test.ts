import { expect, test } from "vitest";
import type { SavingsDay } from "../api/client";
import { bars, count, minutesWords, percentWords } from "./savingsWords";

const figures = (keys: number) => ({
  expansions: keys > 0 ? 1 : 0,
  takenBack: 0,
  takenBackPercent: 0,
  keys,
  minutes: 0,
  characters: keys,
  fields: 0,
});

/** Days in a row, each with as many keys as its number. */
function days(from: string, many: number, keys = (at: number) => at + 1): SavingsDay[] {
  return Array.from({ length: many }, (_, at) => {
    const date = new Date(`${from}T00:00:00Z`);
    date.setUTCDate(date.getUTCDate() + at);
    return { day: date.toISOString().slice(0, 10), figures: figures(keys(at)) };
  });
}

test("a few days are bars of their own, those without anything too", () => {
  const shown = bars(days("2026-11-23", 7, (at) => (at === 2 ? 12 : 0)));
  expect(shown.map(({ keys }) => keys)).toEqual([0, 0, 12, 0, 0, 0, 0]);
  expect(shown[2]).toMatchObject({ from: "2026-11-25", label: "25 Nov", expansions: 1 });
});

test("many days are added up by weeks, that begin on Monday, and very many by months", () => {
  const weeks = bars(days("2026-01-01", 365));
  expect(weeks.map(({ keys }) => keys).reduce((sum, keys) => sum + keys, 0)).toBe((365 * 366) / 2);
  expect(weeks[0]).toMatchObject({ from: "2026-01-01", keys: 1 + 2 + 3 + 4 });
  expect(weeks[1]).toMatchObject({ from: "2026-01-05" });
  const months = bars(days("2025-01-01", 730));
  expect(months).toHaveLength(24);
  expect(months[1]).toMatchObject({ from: "2025-02-01", label: "Feb 2025" });
});

test("what lies before the first count is left out where bars are weeks or months", () => {
  const shown = bars(days("2026-01-01", 365, (at) => (at >= 340 ? 5 : 0)));
  expect(shown[0]!.from).toBe("2026-12-07");
});

test("figures are readable", () => {
  expect(count(1234567)).toBe("1\u00A0234\u00A0567");
  expect([minutesWords(0.4), minutesWords(12.4), minutesWords(150)]).toEqual(["under a minute", "12 min", "2.5 h"]);
  expect([percentWords(0), percentWords(16.7)]).toEqual(["0 %", "16.7 %"]);
});
