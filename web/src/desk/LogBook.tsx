import { useRef } from "react";
import { useTypingControl } from "../typing/useTypingField";

/** The office's log, written in Markdown. */
export function LogBook() {
  const field = useRef<HTMLTextAreaElement>(null);
  useTypingControl(field, { place: "desk", app: "log-book", kind: "markdown" });
  return (
    <section className="window log-book" data-window="2" aria-label="Log book">
      <header>
        Log book <kbd>Alt+2</kbd>
      </header>
      <textarea ref={field} data-first aria-label="Log" spellCheck={false} placeholder="# Today" />
    </section>
  );
}
