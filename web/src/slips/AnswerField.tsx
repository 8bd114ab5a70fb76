import type { Question } from "./slipAnswers";

interface Props {
  question: Question;
  label: string | undefined;
  value: string;
  wrong: boolean;
  /** Answers given before, the latest first. */
  recent: readonly string[];
  onChange: (value: string) => void;
}

/** Native controls: a choice is picked by its first letters, a date with the keyboard, an answer given before with the arrows. */
export function AnswerField({ question, label, value, wrong, recent, onChange }: Props) {
  const { key, field } = question;
  const common = { id: `slip-${key}`, "data-answer": key, "aria-invalid": wrong, "aria-label": label };
  switch (field.type) {
    case "checkbox":
      return (
        <input
          {...common}
          type="checkbox"
          checked={value === "true"}
          onChange={(event) => onChange(String(event.target.checked))}
        />
      );
    case "long-text":
      return (
        <textarea {...common} rows={field.size ?? 4} value={value} onChange={(event) => onChange(event.target.value)} />
      );
    case "choice":
      return (
        <select {...common} value={value} onChange={(event) => onChange(event.target.value)}>
          {field.choices.map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </select>
      );
    default:
      return (
        <>
          <input
            {...common}
            type={field.type === "date" ? "date" : "text"}
            inputMode={field.type === "number" ? "decimal" : undefined}
            autoComplete="off"
            list={recent.length > 0 ? `recent-${key}` : undefined}
            size={field.size ?? undefined}
            value={value}
            onChange={(event) => onChange(event.target.value)}
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
