import { useEffect, type RefObject } from "react";
import { textControlDriver } from "./textControlDriver";
import type { FieldDescription } from "./hosting";
import { typingSession } from "./TypingSession";

/** Lets the engine listen to an input or textarea. */
export function useTypingControl(
  ref: RefObject<HTMLInputElement | HTMLTextAreaElement | null>,
  { place, app, name, kind }: FieldDescription,
): void {
  useEffect(
    () =>
      ref.current
        ? typingSession.attach({ place, app, name, kind, driver: textControlDriver(ref.current) })
        : undefined,
    [ref, place, app, name, kind],
  );
}
