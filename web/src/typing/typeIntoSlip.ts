import { toEvent } from "./FieldDriver";
import { chordOf } from "../ui/keys";
import { pressKey } from "./pressKey";
import { textControlDriver } from "./textControlDriver";

/** Types keys where the focus is in a slip: each goes to the control that has the focus by then. */
export function typeIntoSlip(keys: readonly string[]): void {
  for (const key of keys) {
    const element = document.activeElement;
    const isText =
      element instanceof HTMLTextAreaElement || (element instanceof HTMLInputElement && element.type !== "checkbox");
    if (isText) pressKey(textControlDriver(element), key);
    else if (element instanceof HTMLElement && element.dispatchEvent(toEvent(chordOf(key))) && key === " ")
      element.click();
  }
}
