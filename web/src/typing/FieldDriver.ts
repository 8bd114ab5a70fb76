/** How a field is written to from outside: each kind of editor has one. */
export interface FieldDriver {
  /** The element that has the focus while one types in the field. */
  readonly element: HTMLElement;
  /** Removes graphemes before the caret; a line end counts as one. */
  deleteBack(count: number): void;
  /** Puts text in at the caret; html is given where the field takes formatting. */
  putIn(plain: string, html: string | undefined): void;
  /** Moves the caret back by caret steps; a line's end is one. */
  moveBack(steps: number): void;
  /** Selects the caret steps before the caret. */
  selectBack(steps: number): void;
  /** The text selected in the field. */
  selectedText(): string;
  /** Removes what is selected, else the grapheme behind the caret, as Delete does. */
  deleteForward(): void;
  selectAll(): void;
  /** Moves the caret as an arrow key, Home or End does. */
  move(key: string): void;
}

const tabbable =
  'input:not([disabled]), textarea:not([disabled]), [contenteditable="true"], button:not([disabled]), a[href], [tabindex="0"]';

/** Puts the focus where Tab would. */
export function focusNext(from: HTMLElement, backwards: boolean): void {
  const all = Array.from(document.querySelectorAll<HTMLElement>(tabbable)).filter(
    (element) => element.tabIndex >= 0 && element.getClientRects().length > 0,
  );
  const next = all[all.indexOf(from) + (backwards ? -1 : 1)];
  next?.focus();
}
