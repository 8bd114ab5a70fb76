import type { SavingsDay } from "../api/client";

/** The times one can look at. */
export const periods = [
  { days: 7, label: "7 days" },
  { days: 30, label: "30 days" },
  { days: 365, label: "A year" },
  { days: 3650, label: "Ten years" },
] as const;

const numbers = new Intl.NumberFormat("en-GB");

export const count = (number: number): string => numbers.format(number).replaceAll(",", "\u00A0");

/** A time in minutes or hours. */
export function minutesWords(minutes: number): string {
  if (minutes < 1) return "under a minute";
  if (minutes < 90) return `${Math.round(minutes)} min`;
  return `${(minutes / 60).toFixed(1)} h`;
}

export const percentWords = (percent: number): string => `${percent.toFixed(1).replace(/\.0$/, "")} %`;

/** A bar of the chart: a day, a week or a month. */
export interface SavingsBar {
  /** The first day in it. */
  from: string;
  label: string;
  expansions: number;
  takenBack: number;
  keys: number;
}

/** The most bars that can still be told apart. */
const mostBars = 62;

/** The days as bars: weeks where there would be too many, and then months. */
export function bars(days: readonly SavingsDay[]): SavingsBar[] {
  const size = days.length <= mostBars ? "day" : days.length <= 7 * mostBars ? "week" : "month";
  // What lies before the first count says nothing.
  const first = days.findIndex(({ figures }) => figures.expansions > 0 || figures.takenBack > 0);
  const told = size === "day" ? days : days.slice(Math.max(0, first));
  const made = new Map<string, SavingsBar>();
  for (const { day, figures } of told) {
    const name = size === "day" ? day : size === "month" ? day.slice(0, 7) : mondayOf(day);
    const bar = made.get(name) ?? { from: day, label: labelOf(day, size), expansions: 0, takenBack: 0, keys: 0 };
    bar.expansions += figures.expansions;
    bar.takenBack += figures.takenBack;
    bar.keys += figures.keys;
    made.set(name, bar);
  }
  return [...made.values()];
}

function mondayOf(day: string): string {
  const date = new Date(`${day}T00:00:00Z`);
  date.setUTCDate(date.getUTCDate() - ((date.getUTCDay() + 6) % 7));
  return date.toISOString().slice(0, 10);
}

function labelOf(day: string, size: "day" | "week" | "month"): string {
  const date = new Date(`${day}T00:00:00Z`);
  return date.toLocaleDateString("en-GB", {
    timeZone: "UTC",
    ...(size === "month" ? { month: "short", year: "numeric" } : { day: "numeric", month: "short" }),
  });
}
