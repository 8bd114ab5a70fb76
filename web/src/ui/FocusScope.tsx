import { useLayoutEffect, useRef, useState, type ReactNode } from "react";
import { focusFirst, giveBack, keepInside } from "./focus";

const patience = 15;

interface Props {
  /** The name of a dialog that it is by itself; Tab stays inside then. None: it lies in one that sees to that. */
  dialog?: string;
  /** Whether who had the focus before gets it back. */
  returns?: boolean;
  /** Who had the focus before; who has it when it comes, unless it is said. */
  opener?: Element | null;
  children: ReactNode;
}

/** An area that takes the focus to its first control when it comes, and gives it back to where it was when it goes. */
export function FocusScope({ dialog, returns = true, opener, children }: Props) {
  const area = useRef<HTMLDivElement>(null);
  // While it is drawn for the first time, the focus is still where it was opened from.
  const [before] = useState(() => opener ?? document.activeElement);
  useLayoutEffect(() => {
    // What is being placed on the screen cannot have the focus in its first frames.
    let frame = 0;
    const own = area.current;
    const look = (left: number) => {
      if (own?.contains(document.activeElement) || focusFirst(own)) return;
      // Where there is nothing to act on, what there is to read has the focus.
      if (left === 0) {
        own?.focus({ preventScroll: true });
        return;
      }
      frame = requestAnimationFrame(() => look(left - 1));
    };
    look(patience);
    return () => {
      cancelAnimationFrame(frame);
      if (returns) giveBack(before, own);
    };
  }, [before, returns]);
  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- only the way of Tab is listened to
    <div
      ref={area}
      tabIndex={-1}
      role={dialog === undefined ? undefined : "dialog"}
      aria-label={dialog}
      className="focus-scope"
      onKeyDown={(event) => dialog !== undefined && area.current && keepInside(area.current, event)}
    >
      {children}
    </div>
  );
}
