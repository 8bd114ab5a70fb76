import { typingSession } from "../typing/TypingSession";
import type { Field } from "../typing/told";

/** The field where the finder was opened, and what was selected there. */
export interface FinderOrigin {
  field: Field | undefined;
  selection: string;
}

/** Where somebody is typing now. */
export function finderOrigin(): FinderOrigin {
  const field = typingSession.lastField;
  return { field, selection: field?.driver.selectedText() ?? "" };
}
