// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, test } from "vitest";
import { textControlDriver } from "./textControlDriver";

let control: HTMLTextAreaElement;
let changes: string[];

/** What the browser does on the two commands that change a text control; jsdom does nothing on them. */
function execCommand(name: string, _shown?: boolean, text?: string): boolean {
  const element = document.activeElement as HTMLTextAreaElement;
  const [start, end] = [element.selectionStart, element.selectionEnd];
  changes.push(`${name} ${text ?? ""}`.trim());
  if (name === "insertText") element.setRangeText(text ?? "", start, end, "end");
  if (name === "delete") element.setRangeText("", start === end ? Math.max(start - 1, 0) : start, end, "end");
  return true;
}

/** Sets the text; `|` is the caret, `[` and `]` hold what is selected. */
function given(text: string): void {
  const plain = text.replaceAll(/[|[\]]/g, "");
  const [caret, start, end] = ["|", "[", "]"].map((sign) => text.indexOf(sign)) as [number, number, number];
  control.value = plain;
  if (caret >= 0) control.setSelectionRange(caret, caret);
  else control.setSelectionRange(start, end - 1);
}

function shown(): string {
  const { value, selectionStart: start, selectionEnd: end } = control;
  return start === end
    ? `${value.slice(0, start)}|${value.slice(start)}`
    : `${value.slice(0, start)}[${value.slice(start, end)}]${value.slice(end)}`;
}

beforeEach(() => {
  document.execCommand = execCommand;
  changes = [];
  control = document.createElement("textarea");
  const other = document.createElement("button");
  document.body.append(control, other);
  control.focus();
});
afterEach(() => document.body.replaceChildren());

describe("a text control is written to", () => {
  const cases: [string, (driver: ReturnType<typeof textControlDriver>) => void, string][] = [
    ["ab|c", (driver) => driver.deleteBack(1), "a|c"],
    ["ab|c", (driver) => driver.deleteBack(9), "|c"],
    ["ab|c", (driver) => driver.deleteBack(0), "ab|c"],
    ["a[b]c", (driver) => driver.deleteBack(0), "a|c"],
    ["a[b]c", (driver) => driver.deleteBack(1), "|c"],
    ["a👩‍👩‍👧|c", (driver) => driver.deleteBack(1), "a|c"],
    ["ae\u0301|", (driver) => driver.deleteBack(1), "a|"],
    ["a\n|b", (driver) => driver.deleteBack(1), "a|b"],
    ["a|b", (driver) => driver.putIn("x\ny", undefined), "ax\ny|b"],
    ["a[b]c", (driver) => driver.putIn("x", undefined), "ax|c"],
    ["a|b", (driver) => driver.putIn("", undefined), "a|b"],
    ["a|b", (driver) => driver.paste("p", "<b>p</b>"), "ap|b"],
    ["abc|", (driver) => driver.moveBack(2), "a|bc"],
    ["ab\n|", (driver) => driver.moveBack(2), "a|b\n"],
    ["abc|", (driver) => driver.selectBack(2), "a[bc]"],
    ["a|👍🏽c", (driver) => driver.deleteForward(), "a|c"],
    ["abc|", (driver) => driver.deleteForward(), "abc|"],
    ["a|b", (driver) => driver.breakLine(), "a\n|b"],
    ["a|b", (driver) => driver.command("selectAll"), "[ab]"],
  ];
  test.each(cases.map(([before, act, after]) => ({ before, act, after })))(
    "$before → $after",
    ({ before, act, after }) => {
      given(before);
      act(textControlDriver(control));
      expect(shown()).toBe(after);
    },
  );

  test("through the browser's own commands, so that undo works", () => {
    given("ab|");
    const driver = textControlDriver(control);
    driver.deleteBack(1);
    driver.putIn("x", undefined);
    expect(changes).toEqual(["delete", "insertText x"]);
  });

  test("also when the focus has gone elsewhere, and nothing else is changed", () => {
    given("ab|c");
    const inputs: string[] = [];
    control.addEventListener("input", (event) => inputs.push(event.inputType));
    document.querySelector("button")?.focus();
    const driver = textControlDriver(control);
    driver.deleteBack(1);
    driver.putIn("x", undefined);
    expect(shown()).toBe("ax|c");
    expect(changes).toEqual([]);
    expect(inputs).toEqual(["insertText", "insertText"]);
  });

  test("an input holds no line ends", () => {
    const input = document.createElement("input");
    document.body.append(input);
    input.focus();
    textControlDriver(input).putIn("one\ntwo", undefined);
    expect(input.value).toBe("one two");
  });

  test("what is selected is known and goes", () => {
    given("a[bc]d");
    const driver = textControlDriver(control);
    expect(driver.selectedText()).toBe("bc");
    expect(driver.deleteSelection()).toBe(true);
    expect(driver.deleteSelection()).toBe(false);
    expect(shown()).toBe("a|d");
  });
});

describe("taking back", () => {
  test("brings back what was remembered, whatever went in", () => {
    given("one | two");
    const driver = textControlDriver(control);
    driver.remember();
    driver.putIn("a text\nof lines", undefined);
    driver.takeBack(15);
    expect(shown()).toBe("one | two");
  });

  test("brings a selection back that was replaced", () => {
    given("keep [this] one");
    const driver = textControlDriver(control);
    driver.remember();
    driver.putIn("X", undefined);
    driver.takeBack(1);
    expect(shown()).toBe("keep [this] one");
  });

  test("brings an empty text back, and changes nothing when nothing had gone in", () => {
    given("aa|a");
    const driver = textControlDriver(control);
    driver.remember();
    driver.putIn("a", undefined);
    driver.takeBack(1);
    expect(shown()).toBe("aa|a");
    driver.remember();
    driver.takeBack(0);
    expect(shown()).toBe("aa|a");
  });

  test("removes the steps when nothing was remembered, and remembers only once", () => {
    given("ab|");
    const driver = textControlDriver(control);
    driver.takeBack(1);
    expect(shown()).toBe("a|");
    driver.remember();
    driver.putIn("xy", undefined);
    driver.takeBack(2);
    driver.takeBack(1);
    expect(shown()).toBe("|");
  });
});

test.each([
  ["ab|", true],
  ["ab|\ncd", true],
  ["a|b", false],
  ["ab\n|cd", false],
  ["a[b]", false],
  ["|", true],
])("whether nothing stands behind the caret of %j in its line", (text, ends) => {
  given(text);
  expect(textControlDriver(control).endsLine()).toBe(ends);
});
