import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from "react";
import { ApiError, api, unwrap } from "../api/client";
import { librariesChanged } from "../api/queries";
import { nameOf } from "../gather";

interface Props {
  /** The library or folder in which it is added; null for the first library. */
  place: { id: number; label: string } | null;
  /** Several lines were pasted. */
  onList: (text: string) => void;
  /** Back to the table. */
  onLeave: () => void;
}

export const typingRowId = "typing-row";

/** A row for typing: abbreviation, Tab, text, Enter, again and again; everything else is as the place wants it. */
export function TypingRow({ place, onList, onLeave }: Props) {
  const [code, setCode] = useState("");
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string>();
  const [added, setAdded] = useState<string>();
  const codeField = useRef<HTMLInputElement>(null);
  const textField = useRef<HTMLTextAreaElement>(null);

  const add = async () => {
    const [abbreviation, words] = [code.trim(), text];
    if (abbreviation === "" || words === "") {
      (abbreviation === "" ? codeField : textField).current?.focus();
      return;
    }
    // The next one can be typed while this one is being saved.
    setCode("");
    setText("");
    setFault(undefined);
    codeField.current?.focus();
    try {
      const snippet = {
        name: nameOf(words) || abbreviation,
        text: words,
        triggers: [{ kind: "abbreviation", text: abbreviation }],
      };
      const made = await unwrap(
        api.POST("/api/snippets", { body: { parentId: place?.id ?? null, snippet, freeName: true } }),
      );
      setAdded(`${abbreviation} puts in “${made.snippet.name}” from now on.`);
      await librariesChanged();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
      // What could not be saved stands there again, unless the next one is being typed.
      setCode((now) => (now === "" ? abbreviation : now));
      setText((now) => (now === "" ? words : now));
    }
  };

  const onPaste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData("text/plain");
    if (!/\S[^\n]*\n[^\n]*\S/.test(pasted) && !pasted.includes("\t")) return;
    event.preventDefault();
    onList(pasted);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Escape") {
      onLeave();
    } else if (event.key === "Enter" && !event.shiftKey) {
      event.preventDefault();
      void add();
    }
  };

  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- the keys of both fields are the row's
    <div className="typing-row" role="group" aria-label="Add a snippet by typing" onKeyDown={onKeyDown}>
      <input
        id={typingRowId}
        ref={codeField}
        className="mono"
        aria-label="Abbreviation"
        placeholder="abbreviation"
        autoComplete="off"
        spellCheck={false}
        value={code}
        onPaste={onPaste}
        onChange={(event) => setCode(event.target.value)}
      />
      <textarea
        autoComplete="off"
        ref={textField}
        rows={Math.min(4, text.split("\n").length)}
        aria-label="Text"
        placeholder="text"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button type="button" className="button" onClick={() => void add()}>
        Add <kbd>Enter</kbd>
      </button>
      <span className="typing-row-said" role="status">
        {fault ? (
          <span className="fault">{fault}</span>
        ) : (
          <span className="soft">
            {added ?? `Goes into ${place?.label ?? "a new library"}. A pasted list is shown first.`}
          </span>
        )}
      </span>
    </div>
  );
}
