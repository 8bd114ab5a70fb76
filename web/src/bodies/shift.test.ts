import { expect, it } from "vitest";
import { readSeconds, readShift, shiftUnits, writeSeconds, writeShift, type ShiftUnit } from "./shift";

it.each([
  ["P3D", false, 3, "days"],
  ["P3D", true, 3, "working-days"],
  ["-P1M", false, -1, "months"],
  ["PT90M", false, 90, "minutes"],
  ["-PT2H", false, -2, "hours"],
  ["P2W", true, 2, "weeks"],
  ["+P1Y", false, 1, "years"],
  ["", false, 0, "days"],
  ["", true, 0, "working-days"],
])("%s (working days: %s) is %i %s", (duration, working, amount, unit) =>
  expect(readShift(duration, working)).toEqual({ amount, unit }),
);

it.each(["P1M3D", "P1DT2H", "PT1.5H", "3 days", "P"])("%s has no simple form", (duration) =>
  expect(readShift(duration, false)).toBeUndefined(),
);

it("what is written is read again", () => {
  for (const unit of Object.keys(shiftUnits) as ShiftUnit[])
    for (const amount of [1, -1, 12, -400])
      expect(readShift(writeShift({ amount, unit }), unit === "working-days")).toEqual({ amount, unit });
  expect(writeShift({ amount: 0, unit: "weeks" })).toBe("");
});

it("pauses are told in seconds", () => {
  expect(readSeconds("PT0.3S")).toBe("0.3");
  expect(readSeconds("PT1M")).toBeUndefined();
  expect(writeSeconds("0,5")).toBe("PT0.5S");
});
