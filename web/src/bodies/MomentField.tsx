import { Input } from "antd";
import { useState } from "react";
import { useDateLocale } from "../ui/useDateLocale";
import { datePattern, isoDay, readDate } from "../ui/typedDate";

interface Props {
  /** A moment as `2026-03-02T09:15:00`; empty for now. */
  value: string;
  onChange: (value: string) => void;
}

/** A day and a time, typed in the order of the user's language; either may be left out. */
export function MomentField({ value, onChange }: Props) {
  const locale = useDateLocale();
  const [typed, setTyped] = useState("");
  const wrong = typed.trim() !== "" && value === "";
  return (
    <Input
      id="rehearsal-moment"
      aria-label="Date and time"
      placeholder={`now, or ${datePattern(locale)} hh:mm`}
      autoComplete="off"
      status={wrong ? "error" : ""}
      value={typed}
      onChange={(event) => {
        setTyped(event.target.value);
        onChange(readMoment(event.target.value, locale) ?? "");
      }}
    />
  );
}

/** The moment that somebody typed: a day, a time or both; undefined when it is neither. */
export function readMoment(typed: string, locale: string, today: Date = new Date()): string | undefined {
  const clock = /(?:^|[\sT])(\d{1,2}):(\d{2})$/.exec(typed.trim());
  const before = typed.trim().slice(0, clock?.index);
  const time = clock ? [Number(clock[1]), Number(clock[2])] : [9, 0];
  const day = before.trim() !== "" ? readDate(before, locale, today) : clock ? isoDay(today) : undefined;
  if (day === undefined || time[0]! > 23 || time[1]! > 59) return undefined;
  return `${day}T${time.map((part) => String(part).padStart(2, "0")).join(":")}:00`;
}
