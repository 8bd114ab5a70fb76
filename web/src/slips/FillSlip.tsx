import { useCallback, useEffect, useEffectEvent, useLayoutEffect, useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";
import type { Preview } from "../api/client";
import { shownHtml } from "../typing/marks";
import { Dialog } from "../ui/Dialog";
import { whenIdle } from "../ui/whenIdle";
import type { OpenSlip } from "../typing/told";
import { AnswerField } from "./AnswerField";
import { SlipRows } from "./SlipRows";
import { slipSession } from "./slipSession";
import {
  groupsOf,
  isEmptyRow,
  nothingTyped,
  shownIn,
  toSend,
  typedIn,
  withoutRow,
  withRow,
  type Group,
  type Question,
  type SlipAnswers,
} from "./slipAnswers";
import "../ui/richText.css";
import "./slips.css";

// Who types into the first field at once has abbreviations there already.
whenIdle(() => void slipSession());

/** Answers given last, by snippet; they live as long as the page. */
const lastAnswers = new Map<number, SlipAnswers>();

/** Shows the fill slip while a snippet asks for something. */
export default function FillSlips({ slip }: { slip: OpenSlip | undefined }) {
  return (
    <Dialog
      open={slip !== undefined}
      footer={null}
      closable={false}
      width={860}
      title={slip?.message.snippet}
      keyboard={false}
      mask={{ closable: false }}
      returns={false}
    >
      {slip && <FillSlip key={slip.id} slip={slip} />}
    </Dialog>
  );
}

/** The form itself, wherever it is shown. */
export function FillSlip({ slip }: { slip: OpenSlip }) {
  const { fields, snippetId, recent } = slip.message;
  const [answers, setAnswers] = useState(nothingTyped);
  const [preview, setPreview] = useState<Preview>();
  const [tried, setTried] = useState(false);
  const holder = useRef<HTMLDivElement>(null);
  const asked = useRef(0);
  /** The key of the answer that had the focus last. */
  const lastKey = useRef<string>(undefined);
  const filled = useRef(false);
  /** The key of an answer that gets the focus once it is there. */
  const wanted = useRef<string>(undefined);

  const show = useCallback(
    async (given: SlipAnswers) => {
      const question = ++asked.current;
      const answer = await slip.preview(toSend(given));
      if (question === asked.current) setPreview(answer);
    },
    [slip],
  );
  useEffect(() => void show(answers), [answers, show]);

  // The first field has the focus, its text selected, as soon as the slip is there.
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      focus(holder.current?.querySelector<HTMLElement>("[data-answer]"));
      slip.ready();
    });
    return () => cancelAnimationFrame(frame);
  }, [slip]);
  useLayoutEffect(() => {
    if (wanted.current === undefined) return;
    focus(holder.current?.querySelector<HTMLElement>(`[data-answer="${CSS.escape(wanted.current)}"]`));
    wanted.current = undefined;
  }, [answers]);

  const inputs = () => Array.from(holder.current?.querySelectorAll<HTMLElement>("[data-answer]") ?? []);

  const putIn = async (given: SlipAnswers) => {
    setTried(true);
    const now = await slip.preview(toSend(given));
    // Enter pressed twice is answered once.
    if (filled.current) return;
    setPreview(now);
    if (now.problems.length > 0 || now.problem !== null) {
      const at = inputs().find((input) => now.problems.some((problem) => problem.field === input.dataset["answer"]));
      (at ?? inputs()[0])?.focus();
      return;
    }
    filled.current = true;
    lastAnswers.set(snippetId, given);
    slip.fill(toSend(given));
  };

  const groups = groupsOf(fields, answers);
  const defaults = preview?.defaults ?? {};

  /** What is typed behind Enter belongs to the field it goes on to, so that has the focus at once. Enter goes on: from the end of the last row to a new one, and out of a new one that is left empty. */
  const goOn = (key: string, toTheEnd: boolean) => {
    const repeated = groups.find((group) => group.kind === "rows" && group.rows.flat().some((one) => one.key === key));
    const last = repeated?.kind === "rows" ? repeated.rows.at(-1)! : undefined;
    if (!toTheEnd && repeated?.kind === "rows" && last?.some((one) => one.key === key)) {
      if (isEmptyRow(answers, last) && repeated.rows.length > repeated.row.least) {
        const without = withoutRow(answers, fields, repeated.row, repeated.rows.length);
        const behind = after(groups, repeated);
        wanted.current = behind?.key;
        flushSync(() => setAnswers(without));
        if (!behind) void putIn(without);
        return;
      }
      if (last.at(-1)!.key === key && !isEmptyRow(answers, last) && repeated.rows.length < repeated.row.most) {
        wanted.current = `${last[0]!.field.name}[${repeated.rows.length + 1}]`;
        flushSync(() => setAnswers(withRow(answers, repeated.row)));
        return;
      }
    }
    const all = inputs();
    const next = toTheEnd ? undefined : all[all.findIndex((input) => input.dataset["answer"] === key) + 1];
    if (next) focus(next);
    else void putIn(answers);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    const key = target.dataset["answer"];
    if (event.key === "Escape") slip.leave();
    else if (event.key === "Enter" && event.shiftKey && target.tagName === "TEXTAREA") return;
    else if (event.key === "Enter" && key !== undefined) goOn(key, event.ctrlKey);
    else if (event.key === "F4" && lastAnswers.has(snippetId)) setAnswers(lastAnswers.get(snippetId)!);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  // A click beside the fields takes the focus away from them, and the slip hears its keys all the same.
  const beside = useEffectEvent((event: globalThis.KeyboardEvent) => {
    const target = event.target as Element;
    const other = target.closest("[role=dialog], input, textarea, [contenteditable]");
    if (holder.current?.contains(target) || (other && !other.contains(holder.current))) return;
    if (event.key === "Escape") slip.leave();
    else if (event.key === "Enter") goOn(lastKey.current ?? inputs()[0]?.dataset["answer"] ?? "", event.ctrlKey);
    else return;
    event.preventDefault();
    event.stopPropagation();
  });
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => beside(event);
    document.addEventListener("keydown", onKey, { capture: true });
    return () => document.removeEventListener("keydown", onKey, { capture: true });
  }, []);

  const problemOf = (key: string) => preview?.problems.find((problem) => problem.field === key)?.message;
  const general = preview?.problems.find((problem) => problem.field === null)?.message;
  const waits = preview === undefined || preview.problems.length > 0;

  const answer = (question: Question, label?: string) => {
    const value = shownIn(answers, question, defaults);
    const problem = problemOf(question.key);
    const shown = problem !== undefined && (tried || value !== "");
    return (
      <>
        <AnswerField
          question={question}
          label={label}
          value={value}
          wrong={shown}
          recent={recent[question.field.name] ?? []}
          onChange={(next) => setAnswers(typedIn(answers, question.key, next))}
        />
        {shown && (
          <span className="fault" role="alert">
            {problem}
          </span>
        )}
      </>
    );
  };

  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the keys of all fields are the slip's
    <div
      className="slip"
      ref={holder}
      // Escape leaves the slip, whatever the field it is pressed in would do on it.
      onKeyDownCapture={(event) => event.key === "Escape" && onKeyDown(event)}
      onKeyDown={onKeyDown}
      onFocus={(event) => (lastKey.current = event.target.dataset["answer"] ?? lastKey.current)}
    >
      <div className="slip-fields">
        {groups.map((group) =>
          group.kind === "once" ? (
            <div key={group.question.key} className="slip-field">
              <label htmlFor={`slip-${group.question.key}`}>
                {group.question.field.label}
                {group.question.field.required && <span className="soft"> (needed)</span>}
              </label>
              {answer(group.question)}
            </div>
          ) : (
            <SlipRows
              key={group.row.key}
              rows={group.rows}
              row={group.row}
              answer={answer}
              onMore={() => {
                wanted.current = `${group.rows[0]![0]!.field.name}[${group.rows.length + 1}]`;
                setAnswers(withRow(answers, group.row));
              }}
              onLess={(at) => setAnswers(withoutRow(answers, fields, group.row, at))}
            />
          ),
        )}
        {general && <p className="caution">{general}</p>}
        <div className="slip-actions">
          <button type="button" className="slip-put-in" aria-disabled={waits} onClick={() => void putIn(answers)}>
            Put in <kbd>Enter</kbd>
          </button>
          <button type="button" className="plain-button" onClick={() => slip.leave()}>
            Leave as typed <kbd>Escape</kbd>
          </button>
          {lastAnswers.has(snippetId) && (
            <button type="button" className="plain-button" onClick={() => setAnswers(lastAnswers.get(snippetId)!)}>
              Last answers <kbd>F4</kbd>
            </button>
          )}
        </div>
      </div>
      <section className="slip-preview" aria-label="Preview">
        {preview && preview.rich !== "" ? (
          // The server renders this from its typed tree, which holds no scripts.
          <div className="rich-text" dangerouslySetInnerHTML={{ __html: shownHtml(preview.rich) }} />
        ) : (
          <p className="soft">The text shows here as soon as it can be worked out.</p>
        )}
      </section>
    </div>
  );
}

function focus(input: HTMLElement | null | undefined): void {
  input?.focus();
  if (input instanceof HTMLInputElement && input.type !== "checkbox") input.select();
}

/** The first question behind a group. */
function after(groups: readonly Group[], group: Group): Question | undefined {
  const next = groups[groups.indexOf(group) + 1];
  return next?.kind === "once" ? next.question : next?.rows[0]?.[0];
}
