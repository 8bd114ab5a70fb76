import { useQuery } from "@tanstack/react-query";
import { Checkbox, Input, Select } from "antd";
import { useDeferredValue, useState } from "react";
import { api, unwrap, type FieldAnswer, type SnippetDocument } from "../api/client";
import { DateField } from "../ui/DateField";
import { shownHtml } from "../typing/marks";
import { MomentField } from "./MomentField";

/** What the unsaved snippet comes to, in each kind of field, at a chosen time and with chosen answers. */
export function BodyRehearsal({ snippet }: { snippet: SnippetDocument }) {
  const [now, setNow] = useState("");
  const [clipboard, setClipboard] = useState("");
  const [selection, setSelection] = useState("");
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const request = useDeferredValue({
    body: snippet.body ?? null,
    text: snippet.text ?? null,
    now: now === "" ? null : now,
    clipboard,
    selection,
    answers,
    twin: snippet.twin ?? null,
    links: snippet.links ?? null,
  });
  const { data, error } = useQuery({
    queryKey: ["preview", request],
    queryFn: ({ signal }) => unwrap(api.POST("/api/preview", { body: request, signal })),
    placeholderData: (before) => before,
    staleTime: 5_000,
    gcTime: 10_000,
    retry: false,
  });
  return (
    <div className="rehearsal">
      <div className="rehearsal-setting">
        <label htmlFor="rehearsal-moment">
          At
          <MomentField value={now} onChange={setNow} />
        </label>
        <label>
          Clipboard
          <Input value={clipboard} onChange={(event) => setClipboard(event.target.value)} />
        </label>
        <label>
          Selected
          <Input value={selection} onChange={(event) => setSelection(event.target.value)} />
        </label>
        {data?.fields.map((field) => (
          <label key={field.name}>
            {field.label}
            <AnswerInput
              field={field}
              value={answers[field.name] ?? field.default}
              onChange={(value) => setAnswers({ ...answers, [field.name]: value })}
            />
          </label>
        ))}
      </div>
      {error && <p className="fault">{error.message}</p>}
      {data?.problem && (
        <p className="caution" role="status">
          {data.problem}
        </p>
      )}
      {data?.warnings.map((warning) => (
        <p key={`${warning.line}:${warning.column}:${warning.message}`} className="caution">
          Line {warning.line}, column {warning.column}: {warning.message}
        </p>
      ))}
      {data && !error && (
        <div className="panes">
          <section aria-label="Rich">
            <h3>Rich</h3>
            {/* The server renders this from its typed tree, which holds no scripts. */}
            <div className="pane rich-text" dangerouslySetInnerHTML={{ __html: shownHtml(data.rich) }} />
          </section>
          <section aria-label="Plain">
            <h3>Plain</h3>
            <pre className="pane">{data.plain}</pre>
          </section>
          <section aria-label="Markdown">
            <h3>Markdown</h3>
            <pre className="pane mono">{data.markdown}</pre>
          </section>
        </div>
      )}
      {data && (data.notices.length > 0 || data.opened.length > 0) && (
        <p className="soft">
          {data.notices.map((notice) => `Shows: ${notice}. `)}
          {data.opened.map((address) => `Opens ${address}. `)}
        </p>
      )}
    </div>
  );
}

interface AnswerProps {
  field: FieldAnswer;
  value: string;
  onChange: (value: string) => void;
}

function AnswerInput({ field, value, onChange }: AnswerProps) {
  if (field.type === "checkbox")
    return <Checkbox checked={value === "true"} onChange={(event) => onChange(String(event.target.checked))} />;
  if (field.type === "choice")
    return (
      <Select
        value={value}
        options={field.choices.map((choice) => ({ value: choice, label: choice }))}
        onChange={onChange}
      />
    );
  if (field.type === "long-text")
    return (
      <Input.TextArea
        autoSize={{ minRows: 1, maxRows: 4 }}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    );
  if (field.type === "date") return <DateField value={value} onChange={onChange} />;
  return <Input value={value} onChange={(event) => onChange(event.target.value)} />;
}
