import { useRef, type InputHTMLAttributes, type SelectHTMLAttributes, type TextareaHTMLAttributes } from "react";
import { useTypingControl } from "../typing/useTypingControl";
import { DateField } from "../ui/DateField";
import type { Question } from "./slipAnswers";
import { slipSession } from "./slipSession";

interface Props {
  question: Question;
  label: string | undefined;
  value: string;
  wrong: boolean;
  /** Answers given before, the latest first. */
  recent: readonly string[];
  onChange: (value: string) => void;
}

/** Native controls: a choice is picked by its first letters, an answer given before with the arrows; abbreviations go off in texts. */
export function AnswerField({ question, label, value, wrong, recent, onChange }: Props) {
  const { key, field } = question;
  const common = { id: `slip-${key}`, "data-answer": key, "aria-invalid": wrong, "aria-label": label };
  switch (field.type) {
    case "checkbox":
      return <Tick {...common} name={field.name} checked={value === "true"} onTick={onChange} />;
    case "long-text":
      return <LongText {...common} name={field.name} rows={field.size ?? 4} value={value} onType={onChange} />;
    case "choice":
      return <Choice {...common} name={field.name} choices={field.choices} value={value} onType={onChange} />;
    case "date":
      return <Day {...common} name={field.name} value={value} onType={onChange} />;
    default:
      return (
        <>
          <Line
            {...common}
            name={field.name}
            inputMode={field.type === "number" ? "decimal" : undefined}
            list={recent.length > 0 ? `recent-${key}` : undefined}
            size={field.size ?? undefined}
            value={value}
            onType={onChange}
          />
          {recent.length > 0 && (
            <datalist id={`recent-${key}`}>
              {recent.map((answer) => (
                <option key={answer} value={answer}>
                  {answer}
                </option>
              ))}
            </datalist>
          )}
        </>
      );
  }
}

type Typed<T> = Omit<T, "onChange" | "name"> & { name: string; onType: (value: string) => void };

function Line({ name, onType, ...rest }: Typed<InputHTMLAttributes<HTMLInputElement>>) {
  const input = useRef<HTMLInputElement>(null);
  useTypingControl(input, { place: "slip", app: "slip", name, kind: "single-line" }, slipSession);
  return (
    <input {...rest} ref={input} type="text" autoComplete="off" onChange={(event) => onType(event.target.value)} />
  );
}

function LongText({ name, onType, ...rest }: Typed<TextareaHTMLAttributes<HTMLTextAreaElement>>) {
  const area = useRef<HTMLTextAreaElement>(null);
  useTypingControl(area, { place: "slip", app: "slip", name, kind: "plain" }, slipSession);
  return <textarea {...rest} ref={area} autoComplete="off" onChange={(event) => onType(event.target.value)} />;
}

function Day({ name, onType, value, ...rest }: Typed<InputHTMLAttributes<HTMLInputElement>> & { value: string }) {
  const input = useRef<HTMLInputElement>(null);
  useTypingControl(input, { place: "slip", app: "slip", name, kind: "single-line" }, slipSession);
  return <DateField {...rest} input={input} value={value} onChange={onType} />;
}

type Ticked = Omit<InputHTMLAttributes<HTMLInputElement>, "name"> & { name: string; onTick: (value: string) => void };

function Tick({ name, onTick, ...rest }: Ticked) {
  const input = useRef<HTMLInputElement>(null);
  useTypingControl(input, { place: "slip", app: "slip", name, kind: "single-line" }, slipSession);
  return <input {...rest} ref={input} type="checkbox" onChange={(event) => onTick(String(event.target.checked))} />;
}

type Chosen = Typed<SelectHTMLAttributes<HTMLSelectElement>> & { choices: readonly string[] };

function Choice({ name, choices, onType, ...rest }: Chosen) {
  const select = useRef<HTMLSelectElement>(null);
  useTypingControl(select, { place: "slip", app: "slip", name, kind: "single-line" }, slipSession);
  return (
    <select {...rest} ref={select} onChange={(event) => onType(event.target.value)}>
      {choices.map((choice) => (
        <option key={choice}>{choice}</option>
      ))}
    </select>
  );
}
