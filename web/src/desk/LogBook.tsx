import { useEffect, useRef, useState } from "react";
import { api, unwrap } from "../api/client";
import { useTypingControl } from "../typing/useTypingControl";
import { deskPlace } from "../words/deskApps";
import { DeskWindow } from "./DeskWindow";
import { useKept } from "./useKept";

/** The office's log, written in Markdown, with what it looks like beside it. */
export function LogBook() {
  const field = useRef<HTMLTextAreaElement>(null);
  const [log, setLog] = useKept("log-book", "");
  const [shown, setShown] = useKept("log-book-preview", false);
  useTypingControl(field, { place: deskPlace, app: "log-book", name: "Log", kind: "markdown" });
  return (
    <DeskWindow
      app="log-book"
      tools={
        <button type="button" aria-pressed={shown} onClick={() => setShown(!shown)}>
          preview
        </button>
      }
    >
      <div className="log-panes">
        <textarea
          ref={field}
          data-first
          aria-label="Log"
          spellCheck={false}
          placeholder="# Today"
          defaultValue={log}
          onChange={(event) => setLog(event.target.value)}
        />
        {shown && <MarkdownPreview text={log} />}
      </div>
    </DeskWindow>
  );
}

function MarkdownPreview({ text }: { text: string }) {
  const [html, setHtml] = useState("");
  useEffect(() => {
    const stop = new AbortController();
    const timer = setTimeout(() => {
      unwrap(api.POST("/api/markdown", { body: { text }, signal: stop.signal })).then(
        (answer) => setHtml(answer.html),
        (error: unknown) => stop.signal.aborted || setHtml(`<p>${String(error)}</p>`),
      );
    }, 120);
    return () => {
      stop.abort();
      clearTimeout(timer);
    };
  }, [text]);
  return (
    // The server writes this HTML itself and takes no HTML from the text.
    <section className="rich-text log-preview" aria-label="Preview" dangerouslySetInnerHTML={{ __html: html }} />
  );
}
