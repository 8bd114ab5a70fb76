import { useEffect, useState } from "react";
import { typingSession } from "../typing/TypingSession";
import { DeskWindow } from "./DeskWindow";

/** The pocket file as a phone shows it: the same page, with no way to the program around it. */
export function Phone() {
  const [state, setState] = useState(0);
  useEffect(() => typingSession.on("changed", () => setState((before) => before + 1)), []);
  return (
    <DeskWindow app="phone">
      <div className="phone-frame">
        <iframe key={state} title="Pocket file" src="/api/pocket-file/shown" sandbox="allow-scripts" data-first />
      </div>
    </DeskWindow>
  );
}
