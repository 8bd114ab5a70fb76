import type { FieldDriver } from "./FieldDriver";
import { graphemes, unitsOfLast } from "./graphemes";

/** Writes to an input or textarea so that the browser's own undo and React's events keep working. */
export function textControlDriver(element: HTMLInputElement | HTMLTextAreaElement): FieldDriver {
  const caret = () => element.selectionStart ?? element.value.length;
  const insert = (text: string) => {
    if (document.activeElement !== element) {
      // The focus has gone elsewhere meanwhile; what was typed here still belongs here and nowhere else.
      element.setRangeText(text, element.selectionStart ?? 0, element.selectionEnd ?? 0, "end");
      element.dispatchEvent(new InputEvent("input", { bubbles: true, inputType: "insertText", data: text }));
    } else if (text === "") document.execCommand("delete");
    // There is no other way to change a text control that keeps its undo history.
    else document.execCommand("insertText", false, text);
  };
  return {
    element,
    deleteBack(count) {
      if (count <= 0) return;
      const end = element.selectionEnd ?? caret();
      const start = caret() - unitsOfLast(element.value.slice(0, caret()), count);
      if (start === end) return;
      element.setSelectionRange(start, end);
      insert("");
    },
    putIn(plain) {
      if (plain !== "") insert(plain);
    },
    moveBack(steps) {
      const to = caret() - unitsOfLast(element.value.slice(0, caret()), steps);
      element.setSelectionRange(to, to);
    },
    selectBack(steps) {
      const end = caret();
      element.setSelectionRange(end - unitsOfLast(element.value.slice(0, end), steps), end);
    },
    deleteForward() {
      const start = caret();
      const end = element.selectionEnd ?? start;
      const next = graphemes(element.value.slice(end))[0]?.length ?? 0;
      element.setSelectionRange(start, start === end ? end + next : end);
      if (element.selectionStart !== element.selectionEnd) insert("");
    },
    selectAll: () => element.setSelectionRange(0, element.value.length),
    selectedText: () => element.value.slice(element.selectionStart ?? 0, element.selectionEnd ?? 0),
    move(key) {
      const before = graphemes(element.value.slice(0, caret()));
      const after = graphemes(element.value.slice(caret()));
      const lineStart = element.value.lastIndexOf("\n", caret() - 1) + 1;
      const lineEnd = element.value.indexOf("\n", caret());
      const to = {
        ArrowLeft: caret() - (before.at(-1)?.length ?? 0),
        ArrowRight: caret() + (after[0]?.length ?? 0),
        Home: lineStart,
        End: lineEnd < 0 ? element.value.length : lineEnd,
      }[key];
      if (to !== undefined) element.setSelectionRange(to, to);
    },
  };
}
