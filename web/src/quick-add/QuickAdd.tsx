import { useQuery } from "@tanstack/react-query";
import { App, Input, Modal, Select, type InputRef } from "antd";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  api,
  unwrap,
  type FolderNode,
  type LibraryTree,
  type SnippetDocument,
  type TriggerDocument,
} from "../api/client";
import { knownLibraries, librariesChanged, useLibraries } from "../api/queries";
import { Grade } from "../safety/Grade";
import { suggestionWords } from "../safety/safetyWords";
import { defaultEdge } from "../snippet/ruleWords";
import { typingSession } from "../typing/TypingSession";
import { nameOf, type QuickAddStart } from "./quickAdd";
import "../safety/safety.css";
import "./quick-add.css";

const lastPlaceKey = "dash-sprout.quick-add.place";

/** From a phrase to a snippet of one's own in a few seconds. */
export default function QuickAdd({ start, onClose }: { start: QuickAddStart | undefined; onClose: () => void }) {
  return (
    <Modal
      open={start !== undefined}
      title="New snippet"
      footer={null}
      width={720}
      onCancel={onClose}
      // The dialog keeps the focus until it is gone.
      afterOpenChange={(isOpen) => !isOpen && typingSession.returnFocus()}
      focusable={{ focusTriggerAfterClose: false }}
      destroyOnHidden
    >
      {start && <QuickAddForm start={start} onDone={onClose} />}
    </Modal>
  );
}

/** The form itself, wherever it is shown. */
export function QuickAddForm({ start, onDone }: { start: QuickAddStart; onDone: () => void }) {
  const { message } = App.useApp();
  const { data: tree } = useLibraries();
  const [text, setText] = useState(start.text ?? "");
  const [ownName, setName] = useState<string>();
  const [ownCode, setCode] = useState<string>();
  const [place, setPlace] = useState(() => Number(localStorage.getItem(lastPlaceKey) ?? NaN));
  const [fault, setFault] = useState<string>();
  const code = useRef<InputRef>(null);

  const places = useMemo(() => (tree ? placesOf(tree) : []), [tree]);
  const chosen = choose(places, place);
  const name = ownName ?? start.name ?? nameOf(text);
  const asked = useLater(name, 200);
  const { data: suggestions } = useQuery({
    queryKey: ["suggestions", asked],
    queryFn: () => unwrap(api.POST("/api/safety/suggestions", { body: { name: asked } })),
    enabled: asked.trim() !== "",
    placeholderData: (before) => before,
  });
  const proposed = suggestions?.[0]?.text ?? "";
  const abbreviation = ownCode ?? proposed;

  const trigger: TriggerDocument = { kind: "abbreviation", text: abbreviation, leftEdge: defaultEdge(abbreviation) };
  const snippet: SnippetDocument = {
    name,
    ...(start.html === undefined ? { text } : { body: start.html }),
    triggers: abbreviation === "" ? [] : [trigger],
  };
  const judged = useLater(abbreviation, 120);
  const { data: draft } = useQuery({
    queryKey: ["prospects", "new", judged],
    queryFn: () =>
      unwrap(
        api.POST("/api/safety/draft", {
          body: {
            snippetId: null,
            snippet: { name: "new", text: "", triggers: [{ kind: "abbreviation", text: judged }] },
          },
        }),
      ),
    enabled: judged !== "",
  });
  const prospects = draft?.triggers[0];

  useEffect(() => {
    const frame = requestAnimationFrame(() => code.current?.focus());
    return () => cancelAnimationFrame(frame);
  }, []);

  // What is proposed is selected, so that typing replaces it.
  useEffect(() => {
    if (ownCode === undefined && document.activeElement === code.current?.input) code.current?.select();
  }, [ownCode, proposed]);

  const save = async () => {
    try {
      const to = choose(placesOf(await knownLibraries()), place);
      // A name that was proposed gives way to one that is there already.
      const body = { parentId: to?.id ?? null, snippet, freeName: ownName === undefined };
      const made = await unwrap(api.POST("/api/snippets", { body }));
      if (to) localStorage.setItem(lastPlaceKey, `${to.id}`);
      void message.success(
        abbreviation === ""
          ? `“${made.snippet.name}” is saved.`
          : `${abbreviation} puts in “${made.snippet.name}” from now on.`,
      );
      onDone();
      await librariesChanged();
    } catch (error) {
      setFault((error as Error).message);
    }
  };

  return (
    <form
      className="quick-add"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <label htmlFor="quick-text">What goes in</label>
      {start.html === undefined ? (
        <Input.TextArea
          id="quick-text"
          rows={3}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || !event.ctrlKey) return;
            event.preventDefault();
            void save();
          }}
        />
      ) : (
        <code id="quick-text" className="quick-body">
          {start.html}
        </code>
      )}
      <label htmlFor="quick-name">Name</label>
      <Input id="quick-name" value={name} onChange={(event) => setName(event.target.value)} />
      <label htmlFor="quick-code">Abbreviation</label>
      <div>
        <Input
          id="quick-code"
          ref={code}
          className="quick-code"
          spellCheck={false}
          autoComplete="off"
          value={abbreviation}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setCode(event.target.value)}
        />
        <div className="quick-prospects" aria-live="polite">
          {prospects?.forecast && abbreviation !== "" && (
            <Grade grade={prospects.forecast.grade} rate={prospects.forecast.per10kWords} />
          )}
          {prospects && prospects.overlaps.length > 0 && (
            <span className="caution">overlaps with {prospects.overlaps[0]?.winner.snippet}</span>
          )}
          {prospects?.error && abbreviation !== "" && <span className="fault">{prospects.error}</span>}
        </div>
        <div className="quick-suggestions">
          {suggestions?.slice(0, 5).map((suggestion) => (
            <button
              key={suggestion.text}
              type="button"
              title={suggestionWords[suggestion.kind]}
              aria-label={`Take ${suggestion.text}`}
              onClick={() => setCode(suggestion.text)}
            >
              <span className="tag">{suggestion.text}</span>
            </button>
          ))}
        </div>
      </div>
      <label htmlFor="quick-place">Where</label>
      <Select
        id="quick-place"
        value={chosen?.id ?? null}
        placeholder="A library is made for it"
        options={places.map(({ id, label }) => ({ value: id, label }))}
        onChange={setPlace}
      />
      <span />
      <div className="quick-actions">
        <button type="submit" className="slip-put-in">
          Save <kbd>Enter</kbd>
        </button>
        {fault && (
          <span className="fault" role="alert">
            {fault}
          </span>
        )}
      </div>
    </form>
  );
}

interface SnippetPlace {
  id: number;
  label: string;
}

const choose = (places: SnippetPlace[], id: number | undefined): SnippetPlace | undefined =>
  places.find((other) => other.id === id) ?? places[0];

/** Every library and folder, with the way that leads there. */
function placesOf(tree: LibraryTree): SnippetPlace[] {
  const inside = (way: string, { id, name, folders }: FolderNode): SnippetPlace[] => {
    const label = way === "" ? name : `${way} › ${name}`;
    return [{ id, label }, ...folders.flatMap((folder) => inside(label, folder))];
  };
  return tree.libraries.flatMap((library) => inside("", library));
}

/** A value a moment after it last changed. */
function useLater<T>(value: T, ms: number): T {
  const [later, setLater] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setLater(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return later;
}
