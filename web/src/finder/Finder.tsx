import { useQuery } from "@tanstack/react-query";
import { App } from "antd";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { api, unwrap, type Found } from "../api/client";
import { shownHtml } from "../typing/marks";
import { Dialog } from "../ui/Dialog";
import { typingSession } from "../typing/TypingSession";
import type { FinderOrigin } from "./finderOrigin";
import { pageClipboard } from "../typing/pageClipboard";
import "../ui/richText.css";
import "./finder.css";

/** Finds a snippet by name, abbreviation or content, and puts it in where the caret was. */
export default function Finder({ origin, onClose }: { origin: FinderOrigin | undefined; onClose: () => void }) {
  const chosen = useRef<() => void>(undefined);
  return (
    <Dialog
      open={origin !== undefined}
      title={<span className="visually-hidden">Find a snippet</span>}
      footer={null}
      closable={false}
      width={920}
      style={{ top: 56 }}
      onCancel={onClose}
      // The dialog keeps the focus until it is gone; then who opened it has it, or the field that something goes into.
      afterOpenChange={(isOpen) => {
        if (isOpen || !chosen.current) return;
        typingSession.returnFocus();
        chosen.current();
        chosen.current = undefined;
      }}
    >
      {origin && (
        <FinderBox
          putsIn={origin.field !== undefined}
          onLeave={onClose}
          onPutIn={(snippetId) => {
            const { field, selection } = origin;
            if (field) chosen.current = () => typingSession.choose(field, snippetId, selection);
            onClose();
          }}
        />
      )}
    </Dialog>
  );
}

interface FinderBoxProps {
  /** Whether there is a place to put a snippet in; it is copied otherwise. */
  putsIn: boolean;
  /** Whether nothing is looked for yet, since the box is not there for the user yet. */
  waits?: boolean;
  onLeave: () => void;
  onPutIn: (snippetId: number) => void;
}

/** What is found by a query. */
const foundBy = (query: string, signal?: AbortSignal) =>
  unwrap(api.GET("/api/finder", { params: { query: { query } }, ...(signal && { signal }) }));

/** The search box with what it finds, wherever it is shown. */
export function FinderBox({ putsIn, waits = false, onLeave, onPutIn }: FinderBoxProps) {
  const { message } = App.useApp();
  const [query, setQuery] = useState("");
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  const taking = useRef(false);
  const {
    data: found,
    error,
    isPlaceholderData,
  } = useQuery({
    queryKey: ["finder", query],
    queryFn: ({ signal }) => foundBy(query, signal),
    placeholderData: (before) => before,
    enabled: !waits,
    staleTime: 0,
    gcTime: 0,
  });
  const current = found?.[Math.min(at, found.length - 1)];
  useEffect(() => {
    const frame = requestAnimationFrame(() => input.current?.focus());
    return () => cancelAnimationFrame(frame);
  }, []);
  useEffect(() => {
    document.getElementById(`found-${current?.snippetId}`)?.scrollIntoView({ block: "nearest" });
  }, [current]);

  const putIn = (snippet: Found) => {
    if (putsIn) onPutIn(snippet.snippetId);
    else void copy(snippet);
  };

  const copy = async (snippet: Found) => {
    try {
      const { preview } = await previewOf(snippet.snippetId);
      if (preview.problem !== null) throw new Error(preview.problem);
      pageClipboard.copied(preview.plain, preview.rich);
      await navigator.clipboard.writeText(preview.plain);
      void message.success(`“${snippet.name}” is on the clipboard.`);
      onLeave();
    } catch (fault) {
      void message.error((fault as Error).message, 6);
    }
  };

  /** Enter belongs to what was typed before it, also when that has not been found yet. */
  const take = async (act: (snippet: Found) => void) => {
    if (current && !isPlaceholderData) {
      act(current);
      return;
    }
    if (taking.current) return;
    taking.current = true;
    try {
      // By itself: what is looked for by the box is given up when a letter follows.
      const rows = await foundBy(query);
      const wanted = rows[Math.min(at, rows.length - 1)];
      if (wanted) act(wanted);
    } catch (fault) {
      void message.error((fault as Error).message, 6);
    } finally {
      taking.current = false;
    }
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const last = (found?.length ?? 1) - 1;
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, last));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "PageDown") setAt(Math.min(at + 8, last));
    else if (event.key === "PageUp") setAt(Math.max(at - 8, 0));
    else if (event.key === "Escape") onLeave();
    else if (event.key === "Enter") void take(event.ctrlKey ? (snippet) => void copy(snippet) : putIn);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the keys of the search box are the finder's
    <div className="finder" onKeyDown={onKeyDown}>
      <input
        ref={input}
        className="finder-input"
        role="combobox"
        aria-label="Find a snippet"
        aria-expanded
        aria-controls="finder-list"
        aria-activedescendant={current && `found-${current.snippetId}`}
        placeholder="Name, abbreviation or any words of the text"
        spellCheck={false}
        value={query}
        onChange={(event) => {
          setQuery(event.target.value);
          setAt(0);
        }}
      />
      {error && (
        <p className="fault" role="alert">
          {error.message}
        </p>
      )}
      <div className="finder-panes">
        <div id="finder-list" className="finder-list" role="listbox" aria-label="Found snippets">
          {found?.map((snippet) => (
            // oxlint-disable-next-line jsx-a11y/click-events-have-key-events -- the search box above has the keys
            <div
              key={snippet.snippetId}
              id={`found-${snippet.snippetId}`}
              role="option"
              tabIndex={-1}
              aria-selected={snippet === current}
              onClick={() => putIn(snippet)}
            >
              <span className="found-name">{snippet.name}</span>
              {snippet.triggers.slice(0, 2).map((trigger) => (
                <span key={trigger} className="tag">
                  {trigger}
                </span>
              ))}
              <span className="soft found-place">{[snippet.library, ...snippet.folders].join(" › ")}</span>
              <span className="soft found-words">{snippet.preview}</span>
            </div>
          ))}
        </div>
        <section className="finder-preview" aria-label="Preview">
          {current && <FoundPreview key={current.snippetId} id={current.snippetId} />}
        </section>
      </div>
      {found?.length === 0 && <p className="soft">Nothing is like that. Fewer letters find more.</p>}
      <footer className="soft">
        <span>
          <kbd>Enter</kbd> {putsIn ? "puts it in" : "copies it"}
        </span>
        <span>
          <kbd>Ctrl+Enter</kbd> copies it
        </span>
        <span>
          <kbd>Escape</kbd> leaves
        </span>
        <span className="wide-only">Often and lately used ones first: a use counts half after a week</span>
      </footer>
    </div>
  );
}

async function previewOf(id: number) {
  const { snippet } = await unwrap(api.GET("/api/snippets/{id}", { params: { path: { id } } }));
  const body = {
    body: snippet.body ?? null,
    text: snippet.body === null ? (snippet.text ?? "") : null,
    twin: snippet.twin ?? null,
    links: snippet.links ?? null,
  };
  const preview = await unwrap(api.POST("/api/preview", { body: { ...body, clipboard: pageClipboard.current.plain } }));
  return { preview, hidden: snippet.private ?? false };
}

function FoundPreview({ id }: { id: number }) {
  const { data } = useQuery({ queryKey: ["finder-preview", id], queryFn: () => previewOf(id), gcTime: 0 });
  if (!data) return null;
  if (data.hidden) return <p className="soft">Private: it goes in without being shown.</p>;
  const { preview } = data;
  if (preview.problem !== null)
    return <p className="soft">Asks first: {preview.fields.map((field) => field.label).join(", ")}</p>;
  // The server renders this from its typed tree, which holds no scripts.
  return <div className="rich-text" dangerouslySetInnerHTML={{ __html: shownHtml(preview.rich) }} />;
}
