import type { FieldDriver } from "./FieldDriver";
import { graphemes, unitsOfLast } from "../words/graphemes";

type TextControl = HTMLInputElement | HTMLTextAreaElement;

/** Writes to an input or textarea so that the browser's own undo and React's events keep working. */
export function textControlDriver(element: TextControl): FieldDriver {
  let remembered: { value: string; start: number; end: number } | undefined;
  const start = () => element.selectionStart ?? element.value.length;
  const end = () => element.selectionEnd ?? element.value.length;
  const back = (from: number, steps: number) => from - unitsOfLast(element.value.slice(0, from), steps);

  /** Puts text where the selection is. */
  const insert = (text: string) => {
    if (document.activeElement !== element) {
      // The focus has gone elsewhere meanwhile; what was typed here still belongs here and nowhere else.
      element.setRangeText(text, start(), end(), "end");
      element.dispatchEvent(new InputEvent("input", { bubbles: true, inputType: "insertText", data: text }));
    } else if (text === "") document.execCommand("delete");
    // There is no other way to change a text control that keeps its undo history.
    else document.execCommand("insertText", false, text);
  };
  const remove = (from: number, to: number) => {
    if (from === to) return;
    element.setSelectionRange(from, to);
    insert("");
  };

  return {
    element,
    focus: () => element.focus({ preventScroll: true }),
    deleteBack: (count) => remove(back(start(), count), end()),
    // An input holds no line ends; the browser puts a space for each, and so does this where the browser is not asked.
    putIn: (plain) => {
      const text = element instanceof HTMLInputElement ? plain.replaceAll("\n", " ") : plain;
      if (text !== "") insert(text);
    },
    paste: (plain) => {
      if (plain !== "") insert(plain);
    },
    remember() {
      remembered = { value: element.value, start: start(), end: end() };
    },
    takeBack(steps) {
      if (!remembered) {
        remove(back(start(), steps), end());
        return;
      }
      const { value } = element;
      const before = remembered;
      remembered = undefined;
      const [prefix, suffix] = shared(value, before.value);
      element.setSelectionRange(prefix, value.length - suffix);
      const middle = before.value.slice(prefix, before.value.length - suffix);
      if (value.length - suffix > prefix || middle !== "") insert(middle);
      element.setSelectionRange(before.start, before.end);
    },
    moveBack(steps) {
      const to = back(start(), steps);
      element.setSelectionRange(to, to);
    },
    selectBack: (steps) => element.setSelectionRange(back(start(), steps), start()),
    selectedText: () => element.value.slice(start(), end()),
    endsLine: () => start() === end() && (end() === element.value.length || element.value[end()] === "\n"),
    deleteSelection() {
      if (start() === end()) return false;
      insert("");
      return true;
    },
    deleteForward() {
      const at = end();
      remove(at, at + (graphemes(element.value.slice(at))[0]?.length ?? 0));
    },
    breakLine: () => insert("\n"),
    command: (name) => {
      if (name === "selectAll") element.select();
      else document.execCommand(name);
    },
    syncSelection: () => undefined,
  };
}

/** How many units two texts share at their beginnings, and of what is left at their ends. */
function shared(one: string, other: string): [number, number] {
  const most = Math.min(one.length, other.length);
  let prefix = 0;
  while (prefix < most && one[prefix] === other[prefix]) prefix++;
  let suffix = 0;
  while (suffix < most - prefix && one.at(-1 - suffix) === other.at(-1 - suffix)) suffix++;
  return [prefix, suffix];
}
