import { Checkbox, Input, Select } from "antd";
import type { SnippetDocument } from "../api/client";
import { deliveries, linkWritings } from "../words/ruleWords";
import { OwnTags } from "./OwnTags";

/** How the text reaches the field, what stays on the clipboard, and how links are written where there are none. */
export function Delivery(props: {
  snippet: SnippetDocument;
  /** Whether it is private, and nobody wanted to see it yet. */
  hidden: boolean;
  onChange: (part: Partial<SnippetDocument>) => void;
}) {
  const { snippet, hidden, onChange } = props;
  const isPrivate = snippet.private ?? false;
  return (
    <div className="delivery">
      <Way
        id="delivery"
        label="Goes in"
        words={deliveries}
        value={snippet.delivery ?? "automatic"}
        onChange={(delivery) => onChange({ delivery })}
      />
      {/* What is private is never left there. */}
      {snippet.delivery !== "keystrokes" && !isPrivate && (
        <Checkbox
          checked={snippet.leaveOnClipboard ?? false}
          onChange={(event) => onChange({ leaveOnClipboard: event.target.checked })}
        >
          Leave it on the clipboard
        </Checkbox>
      )}
      {/<a [^>]*href=/.test(snippet.body ?? "") && (
        <Way
          id="links"
          label="Links without formatting"
          words={linkWritings}
          value={snippet.links ?? "as-set"}
          onChange={(links) => onChange({ links })}
        />
      )}
      <Checkbox checked={isPrivate} onChange={(event) => onChange({ private: event.target.checked })}>
        Private{" "}
        <span className="soft">
          {!isPrivate
            ? "hidden until shown, sealed on disk"
            : snippet.delivery === "clipboard"
              ? "goes through the clipboard, which is as before then"
              : "typed, never on the clipboard"}
        </span>
      </Checkbox>
      {!hidden && (
        <Input
          variant="borderless"
          className="note"
          aria-label="Note to yourself"
          placeholder="A note to yourself"
          value={snippet.note ?? ""}
          onChange={(event) => onChange({ note: event.target.value })}
        />
      )}
      <OwnTags tags={snippet.tags ?? []} onChange={(tags) => onChange({ tags })} />
    </div>
  );
}

interface WayProps {
  id: string;
  label: string;
  words: Record<string, string>;
  value: string;
  onChange: (value: string) => void;
}

function Way({ id, label, words, value, onChange }: WayProps) {
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <Select
        id={id}
        variant="borderless"
        popupMatchSelectWidth={false}
        value={value}
        options={Object.entries(words).map(([way, long]) => ({ value: way, label: long }))}
        onChange={onChange}
      />
    </>
  );
}
