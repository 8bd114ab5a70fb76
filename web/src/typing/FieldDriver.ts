import type { Flow } from "../api/client";
import type { Chord } from "../ui/keys";

/** How a field is written to from outside: each kind of editor has one. Caret steps are the core's: see `Written` there. */
export interface FieldDriver {
  /** The element that has the focus while one types in the field. */
  readonly element: HTMLElement;
  /** Gives it the focus, with its caret where it was. */
  focus(): void;
  /** Removes what is selected, and graphemes before the caret; a line's end counts as one. */
  deleteBack(count: number): void;
  /** Puts text in at the caret; the flow is given where the field takes formatting. */
  putIn(plain: string, flow: Flow | undefined): void;
  /** Puts in what was copied elsewhere, with its formatting as HTML if there is any. */
  paste(plain: string, html: string | undefined): void;
  /** Remembers what the field holds, in case the text that goes in next is taken back. */
  remember(): void;
  /** Brings back what was remembered; removes the caret steps before the caret when nothing was. */
  takeBack(steps: number): void;
  /** Moves the caret back by caret steps. */
  moveBack(steps: number): void;
  /** Selects the caret steps before the caret. */
  selectBack(steps: number): void;
  /** The text selected in the field. */
  selectedText(): string;
  /** Whether nothing is selected and nothing but a line's end stands behind the caret. */
  endsLine(): boolean;
  /** Removes what is selected; true when something was. */
  deleteSelection(): boolean;
  /** Removes the grapheme behind the caret. */
  deleteForward(): void;
  /** Makes the line end that Enter makes where nothing else is done on it. */
  breakLine(): void;
  /** Does what the browser does on a command such as undo. */
  command(name: string): void;
  /** Takes over the selection after it was changed past the driver. */
  syncSelection(): void;
}

/** The chord as the browser would report it. */
export const toEvent = ({ name, ctrl, alt, shift, meta }: Chord): KeyboardEvent =>
  new KeyboardEvent("keydown", {
    key: ctrl && !shift ? name.toLowerCase().replace(/^(.{2,})$/, () => name) : name,
    ctrlKey: ctrl,
    altKey: alt,
    shiftKey: shift,
    metaKey: meta,
    bubbles: true,
    cancelable: true,
  });
