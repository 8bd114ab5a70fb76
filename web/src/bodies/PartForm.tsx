import { useQuery } from "@tanstack/react-query";
import { AutoComplete, Button, Checkbox, Input, InputNumber, Select } from "antd";
import { useState } from "react";
import { api, unwrap } from "../api/client";
import { kindOf, partElement, type PartField } from "./liveParts";
import { markupOf } from "./markup";
import { refreshParts } from "./partValues";
import { shiftUnits } from "./shift";
import { useSnippetPath } from "./useSnippetPath";

interface Props {
  html: string;
  /** What it comes to now. */
  comesTo: string | undefined;
  problem: string | undefined;
  onChange: (html: string) => void;
  onRemove: () => void;
}

/** The small form of one live part. */
export function PartForm({ html, comesTo, problem, onChange, onRemove }: Props) {
  const kind = kindOf(partElement(html));
  const [touched, setTouched] = useState<string>();
  const change = (field: PartField, value: string) => {
    setTouched(field.label);
    const part = partElement(html);
    field.write(part, value);
    onChange(markupOf(part));
  };
  return (
    <div className="part-form">
      {kind?.fields.map((field) => (
        <div key={field.label} className="part-place">
          <PartInput field={field} value={field.read(partElement(html))} onChange={(value) => change(field, value)} />
          {problem && field.label === (touched ?? kind.fields[0]?.label) && (
            <p className="fault" role="alert">
              {problem}
            </p>
          )}
        </div>
      ))}
      {comesTo !== undefined && comesTo !== "" && (
        <p className="comes-to" role="status">
          Comes to <strong>{comesTo}</strong>
        </p>
      )}
      {kind?.fields.length === 0 && <p className="soft">Nothing to choose here.</p>}
      <Button size="small" onClick={onRemove}>
        Take it out
      </Button>
    </div>
  );
}

interface InputProps {
  field: PartField;
  value: string;
  onChange: (value: string) => void;
}

function PartInput({ field, value, onChange }: InputProps) {
  if (field.kind === "check")
    return (
      <Checkbox checked={value !== ""} onChange={(event) => onChange(event.target.checked ? "true" : "")}>
        {field.label}
      </Checkbox>
    );
  return (
    <label className="part-field">
      <span>{field.label}</span>
      <PartControl field={field} value={value} onChange={onChange} />
      {field.hint && <span className="soft hint">{field.hint}</span>}
    </label>
  );
}

function PartControl({ field, value, onChange }: InputProps) {
  switch (field.kind) {
    case "lines":
      return (
        <Input.TextArea
          autoSize={{ minRows: 2, maxRows: 8 }}
          value={value}
          aria-label={field.label}
          onChange={(event) => onChange(event.target.value)}
        />
      );
    case "choice":
      return (
        <Select
          value={value}
          aria-label={field.label}
          options={(field.choices ?? []).map(([choice, label]) => ({ value: choice, label }))}
          onChange={onChange}
        />
      );
    case "pattern":
      return <PatternChoice value={value} onChange={onChange} />;
    case "snippet":
      return <SnippetChoice value={value} onChange={onChange} />;
    case "zone":
    case "locale":
    case "snap":
      return <DateChoice kind={field.kind} label={field.label} value={value} onChange={onChange} />;
    case "shift":
      return <ShiftChoice value={value} label={field.label} onChange={onChange} />;
    case "source":
      return <SourceChoice value={value} label={field.label} onChange={onChange} />;
    default:
      return <Delayed value={value} label={field.label} onChange={onChange} />;
  }
}

/** Text that is taken over when the field is left or Enter is pressed, so that half-typed values are not judged. */
function Delayed({ value, label, onChange }: { value: string; label: string; onChange: (value: string) => void }) {
  const [draft, setDraft] = useState(value);
  return (
    <Input
      value={draft}
      aria-label={label}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => draft !== value && onChange(draft)}
      onPressEnter={() => draft !== value && onChange(draft)}
    />
  );
}

/** How far a date is moved: a number and a unit; a duration of several parts is typed as it is written. */
function ShiftChoice({ value, label, onChange }: { value: string; label: string; onChange: (value: string) => void }) {
  const [, amount, unit] = /^(-?\d+) ([a-z-]+)$/.exec(value) ?? [];
  if (amount === undefined || unit === undefined)
    return <Delayed value={value} label={`${label}, as an ISO 8601 duration`} onChange={onChange} />;
  return (
    <span className="shift-choice">
      <InputNumber
        aria-label={`${label}: how many`}
        value={Number(amount)}
        precision={0}
        onChange={(next) => next !== null && onChange(`${next} ${unit}`)}
      />
      <Select
        aria-label={`${label}: of what`}
        value={unit}
        options={Object.entries(shiftUnits).map(([one, words]) => ({ value: one, label: words }))}
        onChange={(next) => onChange(`${amount} ${next}`)}
      />
    </span>
  );
}

/** Where a live value is read from; one that was never read before is allowed here, once. */
function SourceChoice({ value, label, onChange }: { value: string; label: string; onChange: (value: string) => void }) {
  const { data, refetch } = useQuery({
    queryKey: ["live-sources"],
    queryFn: () => unwrap(api.GET("/api/live-sources")),
  });
  const [fault, setFault] = useState<string>();
  const allowed = value.startsWith("/") || (data ?? []).some((source) => source.source === value);
  const allow = async () => {
    try {
      await unwrap(api.PUT("/api/live-sources", { body: { source: value, allowed: true } }));
      setFault(undefined);
      await refetch();
      refreshParts();
    } catch (problem) {
      setFault((problem as Error).message);
    }
  };
  return (
    <>
      <Delayed value={value} label={label} onChange={onChange} />
      {data && !allowed && (
        <Button size="small" onClick={() => void allow()}>
          Allow reading from here
        </Button>
      )}
      {fault && (
        <span className="fault" role="alert">
          {fault}
        </span>
      )}
    </>
  );
}

function PatternChoice({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const { data } = useQuery({
    queryKey: ["date-presets"],
    queryFn: () => unwrap(api.GET("/api/dates/presets", { params: { query: {} } })),
    staleTime: 30_000,
  });
  const [draft, setDraft] = useState(value);
  return (
    <AutoComplete
      value={draft}
      aria-label="Pattern"
      // What is typed is what is kept; a preset is taken when it was gone to.
      defaultActiveFirstOption={false}
      popupMatchSelectWidth={360}
      options={(data ?? []).map((preset) => ({
        value: preset.pattern,
        label: (
          <span className="preset">
            <span>{preset.name}</span>
            <span className="soft">{preset.now}</span>
          </span>
        ),
      }))}
      onChange={setDraft}
      onSelect={(pattern: string) => onChange(pattern)}
      onBlur={() => draft !== value && onChange(draft)}
    />
  );
}

function DateChoice(props: {
  kind: "zone" | "locale" | "snap";
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  const { data } = useQuery({
    queryKey: ["date-choices"],
    queryFn: () => unwrap(api.GET("/api/dates/choices")),
    staleTime: Infinity,
  });
  const list = { zone: data?.zones, locale: data?.locales, snap: data?.snaps }[props.kind] ?? [];
  return (
    <Select
      showSearch
      allowClear
      aria-label={props.label}
      value={props.value === "" ? undefined : props.value}
      placeholder={props.kind === "snap" ? "stays" : "as in the settings"}
      options={list.map((item) => ({ value: item, label: props.kind === "snap" ? item.replaceAll("-", " ") : item }))}
      onChange={(value?: string) => props.onChange(value ?? "")}
    />
  );
}

/** Another snippet, looked for by name or content; it is referred to by its identity. */
function SnippetChoice({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const [query, setQuery] = useState("");
  const name = useSnippetPath(value);
  const { data } = useQuery({
    queryKey: ["finder", query],
    queryFn: () => unwrap(api.GET("/api/finder", { params: { query: { query } } })),
    placeholderData: (before) => before,
  });
  const found = (data ?? []).map((snippet) => ({ value: `#${snippet.snippetId}`, label: snippet.path }));
  const options = found.some((option) => option.value === value) ? found : [{ value, label: name }, ...found];
  return (
    <Select
      showSearch={{ filterOption: false, onSearch: setQuery }}
      aria-label="Snippet"
      popupMatchSelectWidth={380}
      value={value}
      options={options}
      onChange={onChange}
    />
  );
}
