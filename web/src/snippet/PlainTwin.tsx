import { Checkbox } from "antd";
import type { SnippetDocument } from "../api/client";
import { BodyEditor } from "../bodies/parts";

interface Props {
  snippet: SnippetDocument;
  error: string | undefined;
  onChange: (part: Pick<SnippetDocument, "twin">) => void;
}

/** The plain twin: a text of its own for fields without formatting. */
export function PlainTwin({ snippet, error, onChange }: Props) {
  const { twin, body } = snippet;
  // A text that is plain anyway needs no twin.
  if (!twin && body == null) return null;
  return (
    <div className="plain-twin">
      <Checkbox
        checked={twin != null}
        onChange={(event) => onChange({ twin: event.target.checked ? { text: "" } : null })}
      >
        Fields without formatting take a text of their own
      </Checkbox>
      {twin && (
        <BodyEditor
          snippet={{ body: twin.body ?? null, text: twin.text ?? null }}
          label="What goes into fields without formatting"
          error={error}
          onChange={({ body: markup, text }) => onChange({ twin: { body: markup ?? null, text: text ?? null } })}
        />
      )}
    </div>
  );
}
