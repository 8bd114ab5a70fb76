// Writes tests/DashSprout.Core.Tests/Dates/fixtures.json: what other date libraries make of many dates.
// Patterns: Node's own Intl (ICU, CLDR). Working days: date-fns (npm install --no-save date-fns@4.1.0).
import { writeFileSync } from "node:fs";
import { addBusinessDays } from "date-fns";

const locales = ["en-GB", "en-US", "de-DE", "fr-FR", "es-ES", "sv-SE", "nl-NL", "it-IT", "pl-PL"];
const moments = [
  ["2026-03-02T09:05:07", "Europe/London"],
  ["2024-02-29T00:00:00", "Europe/Berlin"],
  ["2025-12-31T23:59:59", "America/New_York"],
  ["2027-01-01T12:30:00", "Asia/Kolkata"],
  ["2026-07-19T15:45:10", "Europe/London"],
  ["2030-09-08T21:00:00", "Asia/Tokyo"],
];

/** The UTC moment at which a zone's clock shows a local time. */
function instant(local, zone) {
  let guess = Date.parse(local + "Z");
  for (let round = 0; round < 3; round++) {
    const shown = new Intl.DateTimeFormat("sv-SE", { timeZone: zone, dateStyle: "short", timeStyle: "medium" }).format(
      guess,
    );
    guess += Date.parse(local + "Z") - Date.parse(shown.replace(" ", "T") + "Z");
  }
  return guess;
}

const part = (locale, zone, at, options, type) =>
  new Intl.DateTimeFormat(locale, { timeZone: zone, ...options }).formatToParts(at).find((p) => p.type === type).value;

const fields = {
  d: (l, z, t) => part("en-US", z, t, { day: "numeric" }, "day"),
  dd: (l, z, t) => part("en-US", z, t, { day: "numeric" }, "day").padStart(2, "0"),
  MM: (l, z, t) => part("en-US", z, t, { month: "numeric" }, "month").padStart(2, "0"),
  MMM: (l, z, t) => part(l, z, t, { day: "numeric", month: "short", year: "numeric" }, "month"),
  MMMM: (l, z, t) => part(l, z, t, { day: "numeric", month: "long" }, "month"),
  LLLL: (l, z, t) => part(l, z, t, { month: "long" }, "month"),
  y: (l, z, t) => part("en-US", z, t, { year: "numeric" }, "year"),
  yy: (l, z, t) => part("en-US", z, t, { year: "2-digit" }, "year"),
  EEEE: (l, z, t) => part(l, z, t, { weekday: "long" }, "weekday"),
  EEE: (l, z, t) => part(l, z, t, { weekday: "short" }, "weekday"),
  H: (l, z, t) => String(Number(part("en-US", z, t, { hour: "numeric", hourCycle: "h23" }, "hour"))),
  HH: (l, z, t) => part("en-US", z, t, { hour: "2-digit", hourCycle: "h23" }, "hour"),
  h: (l, z, t) => part("en-US", z, t, { hour: "numeric", hour12: true }, "hour"),
  mm: (l, z, t) => part("en-US", z, t, { hour: "numeric", minute: "2-digit" }, "minute"),
  ss: (l, z, t) => part("en-US", z, t, { minute: "2-digit", second: "2-digit" }, "second").padStart(2, "0"),
  O: (l, z, t) => part("en-US", z, t, { timeZoneName: "shortOffset" }, "timeZoneName"),
  OOOO: (l, z, t) => part("en-US", z, t, { timeZoneName: "longOffset" }, "timeZoneName"),
};
const patterns = [
  "d MMMM y",
  "EEEE d MMMM y",
  "EEE dd.MM.yy",
  "LLLL y",
  "d MMM y",
  "HH:mm:ss",
  "H'h'mm",
  "h:mm",
  "y-MM-dd'T'HH:mm OOOO",
  "EEEE, HH:mm O",
];

const dates = [];
for (const locale of locales)
  for (const [local, zone] of moments)
    for (const pattern of patterns) {
      const at = instant(local, zone);
      // UTS #35 writes the zero offset GMT (gmtZeroFormat); Intl writes GMT+0.
      if (pattern.includes("O") && fields.O(locale, zone, at) === "GMT+0") continue;
      const expected = pattern.replace(
        /'([^']*)'|([A-Za-z])\2*/g,
        (token, text) => text ?? fields[token](locale, zone, at),
      );
      dates.push({ local, zone, locale, pattern, expected });
    }

const workingDays = [];
for (let start = 1; start <= 28; start++)
  for (const days of [-11, -5, -1, 1, 2, 3, 5, 10, 23]) {
    const from = new Date(Date.UTC(2026, 1, start, 12));
    workingDays.push({
      from: from.toISOString().slice(0, 10),
      days,
      to: addBusinessDays(from, days).toISOString().slice(0, 10),
    });
  }

writeFileSync(
  new URL("../tests/DashSprout.Core.Tests/Dates/fixtures.json", import.meta.url),
  JSON.stringify({
    intl: { node: process.versions.node, icu: process.versions.icu, cldr: process.versions.cldr },
    dates,
    workingDays,
  }),
);
