import { useLayoutEffect, type RefObject } from "react";
import { choiceDriver } from "./choiceDriver";
import { textControlDriver } from "./textControlDriver";
import type { FieldDescription } from "./hosting";
import { typingSession, type TypingSession } from "./TypingSession";

type Control = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

/**
 * Lets the engine listen to an input, a textarea, or a choice among them. It hears the field from the moment it stands on
 * the page: what is typed behind an answer that brought the field belongs to the field.
 */
export function useTypingControl(
  ref: RefObject<Control | null>,
  { place, app, name, kind }: FieldDescription,
  session: () => TypingSession = () => typingSession,
): void {
  useLayoutEffect(
    () => (ref.current ? session().attach({ place, app, name, kind, driver: driverOf(ref.current) }) : undefined),
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- which session it is never changes for a field
    [ref, place, app, name, kind],
  );
}

const driverOf = (element: Control) =>
  element instanceof HTMLSelectElement || element.type === "checkbox"
    ? choiceDriver(element as HTMLInputElement | HTMLSelectElement)
    : textControlDriver(element);
