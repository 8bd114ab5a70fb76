/** A day as a user writes it, in the order of their language; kept as `2026-03-02`. */

type Part = "day" | "month" | "year";

const parts = (locale: string, options: Intl.DateTimeFormatOptions, date: Date) =>
  new Intl.DateTimeFormat(locale, {
    timeZone: "UTC",
    calendar: "gregory",
    numberingSystem: "latn",
    ...options,
  }).formatToParts(date);

const numeric = { day: "2-digit", month: "2-digit", year: "numeric" } as const;

/** The order in which a language writes day, month and year. */
export function dateOrder(locale: string): Part[] {
  return parts(locale, numeric, new Date(Date.UTC(2026, 2, 2)))
    .map(({ type }) => type)
    .filter((type): type is Part => type === "day" || type === "month" || type === "year");
}

/** How a day is typed in a language, such as `dd/mm/yyyy`. */
export const datePattern = (locale: string): string =>
  parts(locale, numeric, new Date(Date.UTC(2026, 2, 2)))
    .map(({ type, value }) => ({ day: "dd", month: "mm", year: "yyyy" })[type as Part] ?? value)
    .join("");

/** What somebody typed as a day: `2.3.`, `02/03/2026`, `2026-03-02`; without a year it is that of today. Undefined for no day. */
export function readDate(typed: string, locale: string, today: Date = new Date()): string | undefined {
  const text = typed.trim();
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  if (iso) return day(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const numbers = text.split(/[^\d]+/).filter((part) => part !== "");
  if (numbers.length < 2 || numbers.length > 3 || /[^\d\s./,\-年月日]/.test(text)) return undefined;
  const order = dateOrder(locale).filter((part) => numbers.length === 3 || part !== "year");
  const of = (part: Part) => Number(numbers[order.indexOf(part)] ?? today.getFullYear());
  const year = of("year");
  return day(year < 100 && numbers.length === 3 ? 2000 + year : year, of("month"), of("day"));
}

/** A day in the numbers of a language; what is no day stays as it is. */
export function writeDate(value: string, locale: string): string {
  const date = dateOf(value);
  return date
    ? parts(locale, numeric, date)
        .map(({ value: text }) => text)
        .join("")
    : value;
}

/** A day in words, to see at once which one was meant: `Monday 2 March 2026`. */
export const dateWords = (value: string, locale: string): string => {
  const date = dateOf(value);
  return date
    ? parts(locale, { weekday: "long", day: "numeric", month: "long", year: "numeric" }, date)
        .map(({ value: text }) => text)
        .join("")
    : "";
};

/** The day some days later or earlier. */
export function dayAfter(value: string, days: number): string {
  const date = dateOf(value);
  return date ? new Date(date.getTime() + days * 86_400_000).toISOString().slice(0, 10) : value;
}

export const isoDay = (date: Date): string =>
  `${String(date.getFullYear()).padStart(4, "0")}-${pad(date.getMonth() + 1)}-${pad(date.getDate())}`;

function dateOf(value: string): Date | undefined {
  const [, year, month, date] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(value) ?? [];
  return year === undefined ? undefined : new Date(Date.UTC(Number(year), Number(month) - 1, Number(date)));
}

function day(year: number, month: number, date: number): string | undefined {
  const found = new Date(Date.UTC(year, month - 1, date));
  const isDay = found.getUTCFullYear() === year && found.getUTCMonth() === month - 1 && found.getUTCDate() === date;
  return isDay ? found.toISOString().slice(0, 10) : undefined;
}

const pad = (number: number): string => String(number).padStart(2, "0");
