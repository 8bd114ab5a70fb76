import { describe, expect, it } from "vitest";
import type { FieldAnswer } from "../api/client";
import {
  groupsOf,
  isEmptyRow,
  nothingTyped,
  rowsOf,
  shownIn,
  toSend,
  typedIn,
  withoutRow,
  withRow,
  type SlipAnswers,
} from "./slipAnswers";

const row = { number: 1, key: "[1]", least: 1, most: 3 };

const field = (name: string, more: Partial<FieldAnswer> = {}): FieldAnswer => ({
  name,
  type: "text",
  label: name,
  default: "",
  required: false,
  min: null,
  max: null,
  step: null,
  size: null,
  choices: [],
  row: null,
  ...more,
});

const fields = [field("skipper"), field("vessel", { row }), field("nights", { row }), field("note")];

const keys = (answers: SlipAnswers) =>
  groupsOf(fields, answers).flatMap((group) =>
    group.kind === "once" ? [group.question.key] : group.rows.flat().map((question) => question.key),
  );

describe("the answers of a slip", () => {
  it("are asked in order, those of a repeated row in each", () => {
    expect(keys(nothingTyped)).toEqual(["skipper", "vessel[1]", "nights[1]", "note"]);
    expect(keys(withRow(nothingTyped, row))).toEqual([
      "skipper",
      "vessel[1]",
      "nights[1]",
      "vessel[2]",
      "nights[2]",
      "note",
    ]);
  });

  it("have no more rows than may be, and no fewer", () => {
    let answers = nothingTyped;
    for (let more = 0; more < 5; more++) answers = withRow(answers, row);
    expect(rowsOf(answers, row)).toBe(3);
    for (let fewer = 0; fewer < 5; fewer++) answers = withoutRow(answers, fields, row, 1);
    expect(rowsOf(answers, row)).toBe(1);
    expect(withoutRow(withRow(nothingTyped, row), fields, row, 7)).toEqual(withRow(nothingTyped, row));
  });

  it("move up when a row above them goes", () => {
    let answers = withRow(withRow(nothingTyped, row), row);
    for (const [key, value] of [
      ["vessel[1]", "Sea Holly"],
      ["vessel[2]", "Marram"],
      ["nights[2]", "2"],
      ["vessel[3]", "Tern"],
      ["skipper", "Lyra"],
    ] as const)
      answers = typedIn(answers, key, value);
    expect(toSend(withoutRow(answers, fields, row, 1))).toEqual({
      "vessel[1]": "Marram",
      "nights[1]": "2",
      "vessel[2]": "Tern",
      skipper: "Lyra",
      "[1]": "2",
    });
    expect(toSend(withoutRow(answers, fields, row, 2))).toEqual({
      "vessel[1]": "Sea Holly",
      "vessel[2]": "Tern",
      skipper: "Lyra",
      "[1]": "2",
    });
  });

  it("are those that were typed; all others take their defaults as they are worked out", () => {
    const [group] = groupsOf([field("total", { default: "1" })], nothingTyped);
    const question = group!.kind === "once" ? group!.question : undefined;
    expect(shownIn(nothingTyped, question!, {})).toBe("1");
    expect(shownIn(nothingTyped, question!, { total: "36" })).toBe("36");
    const typed = typedIn(nothingTyped, "total", "");
    expect(shownIn(typed, question!, { total: "36" })).toBe("");
    expect(toSend(nothingTyped)).toEqual({});
    expect(toSend(typed)).toEqual({ total: "" });
  });

  it("tell a row in which nothing was typed", () => {
    const rows = (answers: SlipAnswers) =>
      groupsOf(fields, answers).flatMap((group) => (group.kind === "rows" ? group.rows : []));
    expect(isEmptyRow(nothingTyped, rows(nothingTyped)[0]!)).toBe(true);
    const typed = typedIn(nothingTyped, "nights[1]", "3");
    expect(isEmptyRow(typed, rows(typed)[0]!)).toBe(false);
  });
});
