import { toEvent, type FieldDriver } from "./FieldDriver";
import { chordOf, commands, isText, movesCaret, type Chord } from "../ui/keys";

const tabbable =
  'input:not([disabled]), textarea:not([disabled]), select:not([disabled]), [contenteditable="true"], button:not([disabled]), a[href], [tabindex="0"]';

/** Does in a field, completely, what the application and the browser do on a key that was held back. */
export function pressKey(driver: FieldDriver, key: string): void {
  if (isText(key)) {
    driver.putIn(key, undefined);
    return;
  }
  const chord = chordOf(key);
  // The application comes first, as with a key that was never held back.
  if (!driver.element.dispatchEvent(toEvent(chord))) return;
  const command = commands[key];
  if (command !== undefined) inField(driver, () => driver.command(command));
  else if (chord.name === "Enter") enter(driver, chord);
  else if (chord.name === "Tab") focusNext(driver.element, chord.shift);
  else if (chord.name === "Backspace" || chord.name === "Delete") erase(driver, chord);
  else if (movesCaret.has(chord.name)) inField(driver, () => move(driver, chord));
}

/** Puts the focus where Tab would; behind the last control comes the first, so that no field keeps the keys to itself. */
export function focusNext(from: HTMLElement, backwards: boolean): void {
  const all = Array.from(document.querySelectorAll<HTMLElement>(tabbable)).filter(
    (element) => element.tabIndex >= 0 && element.getClientRects().length > 0,
  );
  const next = all.indexOf(from) + (backwards ? -1 : 1);
  all.at(next % all.length)?.focus();
}

/** Enter makes a line, except in a field of a form, which it sends off as its first button would. */
function enter(driver: FieldDriver, { ctrl }: Chord): void {
  const { element } = driver;
  if (!(element instanceof HTMLInputElement)) {
    if (!ctrl) driver.breakLine();
    return;
  }
  const { form } = element;
  if (!form) return;
  const button = Array.from(form.elements).find(
    (control): control is HTMLButtonElement | HTMLInputElement =>
      (control instanceof HTMLButtonElement && control.type === "submit") ||
      (control instanceof HTMLInputElement && (control.type === "submit" || control.type === "image")),
  );
  if (button) button.click();
  else if (form.querySelectorAll("input").length === 1) form.requestSubmit();
}

function erase(driver: FieldDriver, { name, ctrl }: Chord): void {
  if (driver.deleteSelection()) return;
  if (ctrl)
    inField(driver, () => {
      extend(name === "Backspace" ? "backward" : "forward", "word");
      driver.syncSelection();
      driver.deleteSelection();
    });
  else if (name === "Backspace") driver.deleteBack(1);
  else driver.deleteForward();
}

/** The browser moves the caret itself: only it knows words and lines as they are laid out. */
function move(driver: FieldDriver, { name, ctrl, shift }: Chord): void {
  const backward = name === "ArrowLeft" || name === "ArrowUp" || name === "Home" || name === "PageUp";
  const direction = backward ? "backward" : "forward";
  const alter = shift ? "extend" : "move";
  const selection = getSelection();
  if (name === "PageUp" || name === "PageDown") {
    for (let line = linesShown(driver.element); line > 0; line--) selection?.modify(alter, direction, "line");
  } else selection?.modify(alter, direction, granularity(name, ctrl));
  driver.syncSelection();
}

function granularity(name: string, ctrl: boolean): string {
  if (name === "Home" || name === "End") return ctrl ? "documentboundary" : "lineboundary";
  if (name === "ArrowUp" || name === "ArrowDown") return ctrl ? "paragraph" : "line";
  return ctrl ? "word" : "character";
}

const extend = (direction: "backward" | "forward", by: string) => getSelection()?.modify("extend", direction, by);

function linesShown(element: HTMLElement): number {
  const height = parseFloat(getComputedStyle(element).lineHeight) || 20;
  return Math.max(1, Math.floor(element.clientHeight / height) - 1);
}

/** The browser's own commands act where the focus is: a field that lost it meanwhile gets it for a moment. */
function inField(driver: FieldDriver, act: () => void): void {
  const { element } = driver;
  const before = document.activeElement;
  if (before !== element) driver.focus();
  act();
  if (before !== element && before instanceof HTMLElement) before.focus({ preventScroll: true });
}
