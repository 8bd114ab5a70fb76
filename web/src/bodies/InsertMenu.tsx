import type { Editor } from "@tiptap/core";
import { Input } from "antd";
import { useState } from "react";
import { conditionChoices } from "./conditions";
import { markupOf } from "./markup";
import { fieldNames, freeName, partElement, partKinds } from "./liveParts";

interface Entry {
  name: string;
  words: string;
  put: (editor: Editor, condition: string) => void;
}

const entries: Entry[] = [
  ...partKinds.map((kind) => ({
    name: kind.name,
    words: kind.words,
    put: (editor: Editor) => {
      const part = partElement(kind.html);
      if (part.matches("input, textarea, select"))
        part.setAttribute("name", freeName(part.getAttribute("name") ?? "field", fieldNames(editor.getHTML())));
      editor
        .chain()
        .focus()
        .insertContent({ type: "livePart", attrs: { html: markupOf(part) } })
        .run();
    },
  })),
  {
    name: "Optional passage around the selection",
    words: "condition when if",
    put: (editor, condition) => editor.chain().focus().setMark("passage", { when: condition }).run(),
  },
  {
    name: "Optional paragraphs",
    words: "condition when if block",
    put: (editor, condition) => editor.chain().focus().wrapIn("passageBlock", { when: condition }).run(),
  },
  {
    name: "Leave the selection selected",
    words: "mark caret overwrite",
    put: (editor) => editor.chain().focus().setMark("leftSelected").run(),
  },
  {
    name: "Notice, shown and not put in",
    words: "message reminder hint",
    put: (editor) => editor.chain().focus().setNode("notice").run(),
  },
  { name: "Line across", words: "rule separator", put: (editor) => editor.chain().focus().setHorizontalRule().run() },
];

/** The live parts, found by typing and put in with Enter. */
export function InsertMenu({ editor, onDone }: { editor: Editor; onDone: () => void }) {
  const [query, setQuery] = useState("");
  const [at, setAt] = useState(0);
  const wanted = query.toLowerCase().split(/\s+/).filter(Boolean);
  const found = entries.filter(({ name, words }) =>
    wanted.every((word) => `${name} ${words}`.toLowerCase().includes(word)),
  );
  const put = (entry: Entry | undefined) => {
    if (!entry) return;
    // A passage goes in for the likeliest of the fields; the bar above the text offers all of them.
    entry.put(editor, conditionChoices(editor.getHTML())[0]?.formula ?? "true");
    onDone();
  };
  return (
    <div className="insert-menu">
      <Input
        autoFocus
        value={query}
        placeholder="Type to find: date, number, clipboard …"
        aria-label="Find a live part"
        role="combobox"
        onBlur={onDone}
        aria-expanded
        aria-controls="insert-list"
        aria-activedescendant={`insert-${at}`}
        onChange={(event) => {
          setQuery(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
          else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
          else if (event.key === "Enter") put(found[at]);
          else if (event.key === "Escape") onDone();
          else return;
          event.preventDefault();
        }}
      />
      <div className="insert-list" id="insert-list" role="listbox" aria-label="Live parts">
        {found.map((entry, index) => (
          <div
            key={entry.name}
            id={`insert-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === at}
            ref={(element) => {
              if (index === at) element?.scrollIntoView({ block: "nearest" });
            }}
            onMouseEnter={() => setAt(index)}
            onMouseDown={(event) => {
              event.preventDefault();
              put(entry);
            }}
          >
            {entry.name}
          </div>
        ))}
        {found.length === 0 && <p className="soft">Nothing is called that.</p>}
      </div>
    </div>
  );
}
