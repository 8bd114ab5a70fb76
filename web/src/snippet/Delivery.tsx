import { Checkbox, Input, Select } from "antd";
import type { SnippetDocument } from "../api/client";
import { deliveries, linkWritings } from "./ruleWords";

const options = (words: Record<string, string>) => Object.entries(words).map(([value, label]) => ({ value, label }));

/** How the text reaches the field, what stays on the clipboard, and how links are written where there are none. */
export function Delivery(props: { snippet: SnippetDocument; onChange: (part: Partial<SnippetDocument>) => void }) {
  const { snippet, onChange } = props;
  return (
    <div className="delivery">
      <label htmlFor="delivery">Goes in</label>
      <Select
        id="delivery"
        variant="borderless"
        popupMatchSelectWidth={false}
        value={snippet.delivery ?? "automatic"}
        options={options(deliveries)}
        onChange={(delivery) => onChange({ delivery })}
      />
      {snippet.delivery !== "keystrokes" && (
        <Checkbox
          checked={snippet.leaveOnClipboard ?? false}
          onChange={(event) => onChange({ leaveOnClipboard: event.target.checked })}
        >
          Leave it on the clipboard
        </Checkbox>
      )}
      {/<a [^>]*href=/.test(snippet.body ?? "") && (
        <>
          <label htmlFor="links">Links without formatting</label>
          <Select
            id="links"
            variant="borderless"
            popupMatchSelectWidth={false}
            value={snippet.links ?? "as-set"}
            options={options(linkWritings)}
            onChange={(links) => onChange({ links })}
          />
        </>
      )}
      <Input
        variant="borderless"
        className="note"
        aria-label="Note to yourself"
        placeholder="A note to yourself"
        value={snippet.note ?? ""}
        onChange={(event) => onChange({ note: event.target.value })}
      />
    </div>
  );
}
