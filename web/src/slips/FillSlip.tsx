import { Modal } from "antd";
import { useCallback, useEffect, useRef, useState, type KeyboardEvent } from "react";
import type { FieldAnswer, Preview } from "../api/client";
import { shownHtml } from "../bodies/marks";
import type { OpenSlip } from "../typing/TypingSession";
import "../bodies/bodies.css";
import "./slips.css";

/** Answers given last, by snippet; they live as long as the page. */
const lastAnswers = new Map<number, Record<string, string>>();

/** Shows the fill slip while a snippet asks for something. */
export default function FillSlips({ slip }: { slip: OpenSlip | undefined }) {
  return (
    <Modal
      open={slip !== undefined}
      footer={null}
      closable={false}
      width={860}
      title={slip?.message.snippet}
      keyboard={false}
      mask={{ closable: false }}
      focusable={{ focusTriggerAfterClose: false }}
      destroyOnHidden
    >
      {slip && <FillSlip key={slip.id} slip={slip} />}
    </Modal>
  );
}

/** The form itself, wherever it is shown. */
export function FillSlip({ slip }: { slip: OpenSlip }) {
  const { fields, snippetId } = slip.message;
  const [answers, setAnswers] = useState<Record<string, string>>(() =>
    Object.fromEntries(fields.map((field) => [field.name, field.default])),
  );
  const [preview, setPreview] = useState<Preview>();
  const [tried, setTried] = useState(false);
  const holder = useRef<HTMLDivElement>(null);
  const asked = useRef(0);

  const show = useCallback(
    async (given: Record<string, string>) => {
      const question = ++asked.current;
      const answer = await slip.preview(given);
      if (question === asked.current) setPreview(answer);
    },
    [slip],
  );
  useEffect(() => void show(answers), [answers, show]);

  // The first field has the focus, its text selected, as soon as the slip is there.
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      const first = holder.current?.querySelector<HTMLInputElement>("[data-answer]");
      first?.focus();
      if (first && "select" in first) first.select();
      slip.ready();
    });
    return () => cancelAnimationFrame(frame);
  }, [slip]);

  const inputs = () => Array.from(holder.current?.querySelectorAll<HTMLElement>("[data-answer]") ?? []);

  const putIn = async () => {
    setTried(true);
    const now = await slip.preview(answers);
    setPreview(now);
    if (now.problems.length > 0 || now.problem !== null) {
      const at = fields.findIndex((field) => now.problems.some((problem) => problem.field === field.name));
      inputs()[Math.max(at, 0)]?.focus();
      return;
    }
    lastAnswers.set(snippetId, answers);
    slip.fill(answers);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const place = inputs().indexOf(event.target as HTMLElement);
    if (event.key === "Escape") slip.leave();
    else if (event.key === "Enter" && event.shiftKey && (event.target as HTMLElement).tagName === "TEXTAREA") return;
    else if (event.key === "Enter" && place >= 0) {
      const next = event.ctrlKey ? undefined : inputs()[place + 1];
      if (next) {
        next.focus();
        if (next instanceof HTMLInputElement) next.select();
      } else void putIn();
    } else if (event.key === "F4" && lastAnswers.has(snippetId))
      setAnswers({ ...answers, ...lastAnswers.get(snippetId) });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const problemOf = (field: FieldAnswer) => preview?.problems.find((problem) => problem.field === field.name)?.message;
  const general = preview?.problems.find((problem) => problem.field === null)?.message;
  const waits = preview === undefined || preview.problems.length > 0;

  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the keys of all fields are the slip's
    <div className="slip" ref={holder} onKeyDown={onKeyDown}>
      <div className="slip-fields">
        {fields.map((field) => {
          const problem = problemOf(field);
          const shown = problem !== undefined && (tried || (answers[field.name] ?? "") !== "");
          return (
            <div key={field.name} className="slip-field">
              <label htmlFor={`slip-${field.name}`}>
                {field.label}
                {field.required && <span className="soft"> (needed)</span>}
              </label>
              <AnswerField
                field={field}
                value={answers[field.name] ?? ""}
                onChange={(value) => setAnswers({ ...answers, [field.name]: value })}
                wrong={shown}
              />
              {shown && (
                <span className="fault" role="alert">
                  {problem}
                </span>
              )}
            </div>
          );
        })}
        {general && <p className="caution">{general}</p>}
        <div className="slip-actions">
          <button type="button" className="slip-put-in" aria-disabled={waits} onClick={() => void putIn()}>
            Put in <kbd>Enter</kbd>
          </button>
          <button type="button" className="plain-button" onClick={() => slip.leave()}>
            Leave as typed <kbd>Escape</kbd>
          </button>
          {lastAnswers.has(snippetId) && (
            <button
              type="button"
              className="plain-button"
              onClick={() => setAnswers({ ...answers, ...lastAnswers.get(snippetId) })}
            >
              Last answers <kbd>F4</kbd>
            </button>
          )}
        </div>
      </div>
      <section className="slip-preview" aria-label="Preview">
        {preview && preview.problem === null ? (
          // The server renders this from its typed tree, which holds no scripts.
          <div className="rich-text" dangerouslySetInnerHTML={{ __html: shownHtml(preview.rich) }} />
        ) : (
          <p className="soft">The text shows here as soon as it can be worked out.</p>
        )}
      </section>
    </div>
  );
}

interface AnswerProps {
  field: FieldAnswer;
  value: string;
  wrong: boolean;
  onChange: (value: string) => void;
}

/** Native controls: a choice is picked by its first letters, a date with the keyboard. */
function AnswerField({ field, value, wrong, onChange }: AnswerProps) {
  const common = { id: `slip-${field.name}`, "data-answer": true, "aria-invalid": wrong };
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
        <input
          {...common}
          type={field.type === "date" ? "date" : "text"}
          inputMode={field.type === "number" ? "decimal" : undefined}
          autoComplete="off"
          size={field.size ?? undefined}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      );
  }
}
