import { Checkbox } from "antd";
import { defaultClosingKeys, keyLabel } from "./ruleWords";
import "./snippet.css";

/** A choice of closing keys: those of somebody else, or one’s own. */
export function ClosingKeys(props: {
  label: string;
  keys: string[] | null;
  otherwise: string[];
  onChange: (keys: string[] | null) => void;
}) {
  const own = props.keys !== null;
  const shown = props.keys ?? props.otherwise;
  const all = [...new Set([...defaultClosingKeys, ...shown])];
  return (
    <div className="closing-key-choice">
      <Checkbox checked={own} onChange={(event) => props.onChange(event.target.checked ? props.otherwise : null)}>
        {props.label}
      </Checkbox>
      <div className="key-grid">
        {all.map((key) => (
          <label key={key} className={shown.includes(key) ? "chosen" : ""}>
            <input
              type="checkbox"
              disabled={!own}
              checked={shown.includes(key)}
              onChange={() =>
                props.onChange(shown.includes(key) ? shown.filter((other) => other !== key) : [...shown, key])
              }
            />
            {keyLabel(key)}
          </label>
        ))}
      </div>
    </div>
  );
}
