import { expect, it } from "vitest";
import { dateOrder, datePattern, dateWords, dayAfter, readDate, writeDate } from "./typedDate";

const today = new Date(2026, 2, 2);

it.each([
  ["en-GB", "02/03/2026", "2026-03-02"],
  ["en-GB", "2/3/26", "2026-03-02"],
  ["en-GB", "2/3", "2026-03-02"],
  ["en-GB", " 2 3 ", "2026-03-02"],
  ["en-US", "02/03/2026", "2026-02-03"],
  ["en-US", "12/31", "2026-12-31"],
  ["de-DE", "2.3.", "2026-03-02"],
  ["de-DE", "02.03.2027", "2027-03-02"],
  ["sv-SE", "2026-03-02", "2026-03-02"],
  ["ja-JP", "2026年3月2日", "2026-03-02"],
  ["en-US", "2026-03-02", "2026-03-02"],
  ["en-GB", "29/02/2028", "2028-02-29"],
])("%s: %s is %s", (locale, typed, day) => expect(readDate(typed, locale, today)).toBe(day));

it.each([
  ["en-GB", "31/02/2026"],
  ["en-GB", "02/13/2026"],
  ["en-GB", "tomorrow"],
  ["en-GB", "2"],
  ["en-GB", "1/2/3/4"],
  ["en-GB", "2 March"],
  ["en-GB", ""],
])("%s: %s is no day", (locale, typed) => expect(readDate(typed, locale, today)).toBeUndefined());

it("what was written is read again, in every order", () => {
  for (const locale of ["en-GB", "en-US", "de-DE", "sv-SE", "ja-JP", "hu-HU", "fa-IR", "ar-EG"])
    for (const day of ["2026-01-02", "2026-12-31", "2028-02-29", "0999-10-11"])
      expect(readDate(writeDate(day, locale).replace(/[\u200e\u200f]/g, ""), locale), `${locale} ${day}`).toBe(day);
});

it("shows how a day is typed, and which one was meant", () => {
  expect(datePattern("en-GB")).toBe("dd/mm/yyyy");
  expect(datePattern("en-US")).toBe("mm/dd/yyyy");
  expect(datePattern("de-DE")).toBe("dd.mm.yyyy");
  expect(dateOrder("ja-JP")).toEqual(["year", "month", "day"]);
  expect(dateWords("2026-03-02", "en-GB")).toContain("Monday");
  expect(dateWords("no day", "en-GB")).toBe("");
  expect(writeDate("no day", "en-GB")).toBe("no day");
});

it("goes over the ends of months", () => {
  expect(dayAfter("2026-02-28", 1)).toBe("2026-03-01");
  expect(dayAfter("2026-03-01", -1)).toBe("2026-02-28");
});
