import type { FieldDriver } from "./FieldDriver";
import { graphemes } from "../words/graphemes";

const nothing = (): undefined => undefined;

/** A tick box or a choice among fields that are typed in: a key that was held back does there what the browser does on it. No text goes in. */
export function choiceDriver(element: HTMLInputElement | HTMLSelectElement): FieldDriver {
  return {
    element,
    focus: () => element.focus({ preventScroll: true }),
    putIn: (plain) => {
      if (graphemes(plain).length !== 1) return;
      if (element instanceof HTMLSelectElement) choose(element, plain);
      else if (plain === " ") element.click();
    },
    deleteBack: nothing,
    paste: nothing,
    remember: nothing,
    takeBack: nothing,
    moveBack: nothing,
    selectBack: nothing,
    selectedText: () => "",
    endsLine: () => false,
    deleteSelection: () => false,
    deleteForward: nothing,
    breakLine: nothing,
    command: nothing,
    syncSelection: nothing,
  };
}

/** The next option that begins with a letter. */
function choose(element: HTMLSelectElement, letter: string): void {
  const all = Array.from(element.options);
  const at = element.selectedIndex;
  const found = [...all.slice(at + 1), ...all.slice(0, at + 1)].find((option) =>
    option.text.toLocaleLowerCase().startsWith(letter.toLocaleLowerCase()),
  );
  if (!found || found.selected) return;
  element.selectedIndex = found.index;
  element.dispatchEvent(new Event("change", { bubbles: true }));
}
