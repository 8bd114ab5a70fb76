import { expect, it } from "vitest";
import { readMoment } from "./MomentField";

const today = new Date(2026, 2, 2);

it.each([
  ["02/03/2026 09:15", "2026-03-02T09:15:00"],
  ["2/3 7:05", "2026-03-02T07:05:00"],
  ["2026-12-31T23:59", "2026-12-31T23:59:00"],
  ["31/12/2026", "2026-12-31T09:00:00"],
  ["14:30", "2026-03-02T14:30:00"],
])("%s is a moment", (typed, moment) => expect(readMoment(typed, "en-GB", today)).toBe(moment));

it.each(["", "soon", "25:00", "12:61", "31/02/2026 09:00", "9"])("%s is none", (typed) =>
  expect(readMoment(typed, "en-GB", today)).toBeUndefined(),
);
