import type { FieldAnswer } from "../api/client";

/** What was typed into a slip so far: by the key of the answer, and how many rows each repeated row has. */
export interface SlipAnswers {
  typed: Readonly<Record<string, string>>;
  rows: Readonly<Record<string, number>>;
}

/** One answer to give: a field, in a row where it is asked in each. */
export interface Question {
  key: string;
  field: FieldAnswer;
  row: number;
}

/** Questions that belong together: one that is asked once, or the rows of a repeated row. */
export type Group =
  { kind: "once"; question: Question } | { kind: "rows"; row: NonNullable<FieldAnswer["row"]>; rows: Question[][] };

export const nothingTyped: SlipAnswers = { typed: {}, rows: {} };

const keyIn = (field: FieldAnswer, row: number) => (field.row ? `${field.name}[${row}]` : field.name);

export const rowsOf = (answers: SlipAnswers, row: NonNullable<FieldAnswer["row"]>): number =>
  answers.rows[row.key] ?? row.least;

/** The questions in the order in which they are asked. */
export function groupsOf(fields: readonly FieldAnswer[], answers: SlipAnswers): Group[] {
  const groups: Group[] = [];
  const seen = new Set<number>();
  for (const field of fields) {
    const { row } = field;
    if (!row) groups.push({ kind: "once", question: { key: field.name, field, row: 1 } });
    else if (!seen.has(row.number)) {
      seen.add(row.number);
      const columns = fields.filter((other) => other.row?.number === row.number);
      const rows = Array.from({ length: rowsOf(answers, row) }, (_, at) =>
        columns.map((column) => ({ key: keyIn(column, at + 1), field: column, row: at + 1 })),
      );
      groups.push({ kind: "rows", row, rows });
    }
  }
  return groups;
}

export const typedIn = (answers: SlipAnswers, key: string, value: string): SlipAnswers => ({
  ...answers,
  typed: { ...answers.typed, [key]: value },
});

/** One row more, if there may be one. */
export function withRow(answers: SlipAnswers, row: NonNullable<FieldAnswer["row"]>): SlipAnswers {
  const count = rowsOf(answers, row);
  return count >= row.most ? answers : { ...answers, rows: { ...answers.rows, [row.key]: count + 1 } };
}

/** Without one of the rows, if there may be fewer; those below it move up. */
export function withoutRow(
  answers: SlipAnswers,
  fields: readonly FieldAnswer[],
  row: NonNullable<FieldAnswer["row"]>,
  gone: number,
): SlipAnswers {
  const count = rowsOf(answers, row);
  if (count <= row.least || gone < 1 || gone > count) return answers;
  const typed = { ...answers.typed };
  for (const field of fields.filter((one) => one.row?.number === row.number))
    for (let at = gone; at <= count; at++) {
      const next = typed[keyIn(field, at + 1)];
      if (at < count && next !== undefined) typed[keyIn(field, at)] = next;
      else delete typed[keyIn(field, at)];
    }
  return { typed, rows: { ...answers.rows, [row.key]: count - 1 } };
}

/** Whether nothing was typed in a row. */
export const isEmptyRow = (answers: SlipAnswers, row: readonly Question[]): boolean =>
  row.every(({ key }) => (answers.typed[key] ?? "") === "");

/** The answers as the program takes them: what nobody typed takes its default there. */
export const toSend = (answers: SlipAnswers): Record<string, string> => ({
  ...answers.typed,
  ...Object.fromEntries(Object.entries(answers.rows).map(([key, count]) => [key, String(count)])),
});

/** What stands in a field: what was typed, else its default, which may be worked out from other answers. */
export const shownIn = (answers: SlipAnswers, { key, field }: Question, defaults: Record<string, string>): string =>
  answers.typed[key] ?? defaults[key] ?? field.default;
