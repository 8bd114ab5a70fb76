import { App, Input, Segmented } from "antd";
import type { TextAreaRef } from "antd/es/input/TextArea";
import { useRef, useState } from "react";
import { api, unwrap, type SnippetDocument } from "../api/client";
import { paragraphsOf } from "./markup";
import { useWrongPart } from "./partValues";
import { RichBody } from "./RichBody";
import "./bodies.css";
import "../ui/richText.css";

interface Props {
  snippet: Pick<SnippetDocument, "body" | "text">;
  /** What a screen reader calls the text. */
  label: string;
  error: string | undefined;
  onChange: (part: Pick<SnippetDocument, "body" | "text">) => void;
}

type View = "plain" | "formatted" | "source";

/** A body as the program keeps it, and as plain text. */
const formsOf = (body: string) => unwrap(api.POST("/api/body-forms", { body: { body } }));

/** What a snippet puts in: plain text stays plain; a formatted body has live parts, and its HTML can be seen. */
export function BodyEditor({ snippet, label, error, onChange }: Props) {
  const { message, modal } = App.useApp();
  const isPlain = snippet.body === null || snippet.body === undefined;
  const [source, setSource] = useState(false);
  // The editor keeps its own document; it begins anew when the body was changed elsewhere.
  const sourceArea = useRef<TextAreaRef>(null);
  const [generation, setGeneration] = useState(0);
  const view: View = isPlain ? "plain" : source ? "source" : "formatted";

  const show = async (next: View) => {
    try {
      if (next === "plain" && !isPlain) {
        const { text } = await formsOf(snippet.body ?? "");
        modal.confirm({
          title: "Make this plain text?",
          content: "Formatting and live parts are taken out; the words stay.",
          okText: "Make it plain",
          onOk: () => onChange({ body: null, text }),
        });
        return;
      }
      if (next !== "plain" && isPlain) {
        onChange({ text: null, body: paragraphsOf(snippet.text ?? "") });
      } else if (next === "formatted" && source) {
        // The editor takes white space as it is; only the program knows which of it lays the source out.
        onChange({ text: null, body: (await formsOf(snippet.body ?? "")).body });
      }
      if (next === "formatted") setGeneration((before) => before + 1);
      setSource(next === "source");
    } catch (problem) {
      void message.error((problem as Error).message, 6);
    }
  };

  /** Selects the place in the source that an error names. */
  const goTo = (fault: string) => {
    const [, line = "1", column = "1"] = /Line (\d+), column (\d+)/.exec(fault) ?? [];
    const area = sourceArea.current?.resizableTextArea?.textArea;
    if (!area) return;
    const before = area.value.split("\n").slice(0, Number(line) - 1);
    const at = before.reduce((sum, text) => sum + text.length + 1, 0) + Number(column) - 1;
    const end = area.value.indexOf(">", at);
    area.focus();
    area.setSelectionRange(at, end < 0 ? area.value.length : end + 1);
  };

  return (
    <div className="body-editor">
      <Segmented<View>
        size="small"
        value={view}
        aria-label="How to write it"
        options={[
          { value: "plain", label: "Plain text" },
          { value: "formatted", label: "Formatted, with live parts" },
          { value: "source", label: "Source" },
        ]}
        onChange={(next) => void show(next)}
      />
      {view === "plain" && (
        <Input.TextArea
          aria-label={label}
          className="plain-body"
          autoSize={{ minRows: 4, maxRows: 16 }}
          value={snippet.text ?? ""}
          status={error ? "error" : ""}
          onChange={(event) => onChange({ text: event.target.value, body: null })}
        />
      )}
      {view === "formatted" && (
        <RichBody
          key={generation}
          html={snippet.body ?? ""}
          label={label}
          onChange={(body) => onChange({ body, text: null })}
        />
      )}
      {view === "source" && (
        <Input.TextArea
          aria-label={`${label}, as source`}
          ref={sourceArea}
          className="source-body mono"
          autoSize={{ minRows: 6, maxRows: 20 }}
          spellCheck={false}
          value={snippet.body ?? ""}
          status={error ? "error" : ""}
          onChange={(event) => onChange({ body: event.target.value, text: null })}
        />
      )}
      {error && view === "formatted" && <FaultInText fault={error} />}
      {error && view !== "formatted" && (
        <p className="fault" role="alert">
          {error}{" "}
          {view === "source" && /Line \d+, column \d+/.test(error) && (
            <button type="button" className="plain-button" onClick={() => goTo(error)}>
              Go there
            </button>
          )}
        </p>
      )}
    </div>
  );
}

/** What is wrong with a formatted text. A live part says at its own place what is wrong with it, and is marked. */
function FaultInText({ fault }: { fault: string }) {
  const marked = useWrongPart();
  const [, why] = /^Line \d+, column \d+: (.*)$/s.exec(fault) ?? [];
  return (
    <p className="fault" role="alert">
      {why !== undefined && marked
        ? "A live part is not right yet. It is marked in the text, and says why when it is opened."
        : (why ?? fault)}
    </p>
  );
}
