/** Moving a date: an amount and a unit, as a user chooses them, and the ISO 8601 duration that they are written as. */
export interface Shift {
  amount: number;
  unit: ShiftUnit;
}

export type ShiftUnit = "minutes" | "hours" | "days" | "working-days" | "weeks" | "months" | "years";

export const shiftUnits: Record<ShiftUnit, string> = {
  minutes: "minutes",
  hours: "hours",
  days: "days",
  "working-days": "working days",
  weeks: "weeks",
  months: "months",
  years: "years",
};

const letters: Record<ShiftUnit, readonly [before: string, letter: string]> = {
  minutes: ["PT", "M"],
  hours: ["PT", "H"],
  days: ["P", "D"],
  "working-days": ["P", "D"],
  weeks: ["P", "W"],
  months: ["P", "M"],
  years: ["P", "Y"],
};

/** The shift that a duration means; undefined when it has several parts, which stay as they are written. */
export function readShift(duration: string, working: boolean): Shift | undefined {
  if (duration === "") return { amount: 0, unit: working ? "working-days" : "days" };
  const [, sign, time, number, letter] = /^([+-]?)P(T?)(\d+)([MHDWY])$/.exec(duration) ?? [];
  if (number === undefined) return undefined;
  const before = time === "T" ? "PT" : "P";
  const unit = (Object.keys(letters) as ShiftUnit[]).find(
    (one) => letters[one][0] === before && letters[one][1] === letter && one !== "working-days",
  );
  if (!unit) return undefined;
  return { amount: Number(number) * (sign === "-" ? -1 : 1), unit: unit === "days" && working ? "working-days" : unit };
}

/** The duration of a shift; empty for one that moves nothing. */
export function writeShift({ amount, unit }: Shift): string {
  if (amount === 0) return "";
  const [before, letter] = letters[unit];
  return `${amount < 0 ? "-" : ""}${before}${Math.abs(amount)}${letter}`;
}

/** Seconds as a pause writes them, and back; undefined for a duration of another form. */
export function readSeconds(duration: string): string | undefined {
  return /^PT(\d+(?:\.\d+)?)S$/.exec(duration)?.[1];
}

export const writeSeconds = (seconds: string): string => `PT${seconds.trim().replace(",", ".")}S`;
