import type { ReactNode } from "react";
import type { FieldAnswer } from "../api/client";
import type { Question } from "./slipAnswers";

interface Props {
  rows: Question[][];
  row: NonNullable<FieldAnswer["row"]>;
  answer: (question: Question, label: string) => ReactNode;
  onMore: () => void;
  onLess: (row: number) => void;
}

/** A row that is asked for again and again, as a table. */
export function SlipRows({ rows, row, answer, onMore, onLess }: Props) {
  return (
    <table className="slip-rows">
      <caption>
        <button type="button" className="plain-button" disabled={rows.length >= row.most} onClick={onMore}>
          Another row
        </button>
      </caption>
      <thead>
        <tr>
          {rows[0]!.map(({ field }) => (
            <th key={field.name} scope="col">
              {field.label}
              {field.required && <span className="soft"> (needed)</span>}
            </th>
          ))}
          <th>
            <span className="visually-hidden">Rows</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((questions, at) => (
          <tr key={questions[0]!.key}>
            {questions.map((question) => (
              <td key={question.key} className="slip-field">
                {answer(question, `${question.field.label}, row ${at + 1}`)}
              </td>
            ))}
            <td>
              <button
                type="button"
                className="plain-button"
                aria-label={`Take row ${at + 1} out`}
                disabled={rows.length <= row.least}
                onClick={() => onLess(at + 1)}
              >
                −
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
