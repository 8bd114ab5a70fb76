import { useEffect, type RefObject } from "react";
import { textControlDriver } from "./textControlDriver";
import type { FieldDescription } from "./hosting";
import { typingSession, type TypingSession } from "./TypingSession";

/** Lets the engine listen to an input or textarea. */
export function useTypingControl(
  ref: RefObject<HTMLInputElement | HTMLTextAreaElement | null>,
  { place, app, name, kind }: FieldDescription,
  session: () => TypingSession = () => typingSession,
): void {
  useEffect(
    () =>
      ref.current ? session().attach({ place, app, name, kind, driver: textControlDriver(ref.current) }) : undefined,
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- which session it is never changes for a field
    [ref, place, app, name, kind],
  );
}
