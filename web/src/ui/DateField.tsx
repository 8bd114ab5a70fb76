import { useState, type InputHTMLAttributes, type RefObject } from "react";
import { datePattern, dateWords, dayAfter, isoDay, readDate, writeDate } from "./typedDate";
import { useDateLocale } from "./useDateLocale";
import "./DateField.css";

interface Props extends Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "onChange" | "type"> {
  /** A day as `2026-03-02`, or what somebody typed that is none. */
  value: string;
  input?: RefObject<HTMLInputElement | null>;
  onChange: (value: string) => void;
}

/** A day, typed in the order of the user's language; the arrows go a day on or back. */
export function DateField({ value, input, onChange, ...rest }: Props) {
  const locale = useDateLocale();
  // What is being typed stays as it is typed while it means the same day.
  const [typed, setTyped] = useState<string>();
  const shown = typed !== undefined && (readDate(typed, locale) ?? typed) === value ? typed : writeDate(value, locale);
  const take = (text: string) => {
    setTyped(text);
    onChange(readDate(text, locale) ?? text);
  };
  return (
    <span className="date-field">
      <input
        {...rest}
        ref={input}
        inputMode="numeric"
        autoComplete="off"
        placeholder={datePattern(locale)}
        value={shown}
        onChange={(event) => take(event.target.value)}
        onKeyDown={(event) => {
          rest.onKeyDown?.(event);
          const days = { ArrowUp: 1, ArrowDown: -1 }[event.key];
          if (days === undefined) return;
          event.preventDefault();
          setTyped(undefined);
          onChange(value === "" ? isoDay(new Date()) : dayAfter(value, days));
        }}
      />
      <span className="soft">{dateWords(value, locale)}</span>
    </span>
  );
}
