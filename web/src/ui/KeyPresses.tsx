import { Button } from "antd";
import { useState } from "react";
import { graphemes } from "../words/graphemes";
import { keyName } from "./keys";
import { keyLabel } from "../words/ruleWords";
import "./KeyPresses.css";

/** A set of keys with one more key in it, or without it when it was there. */
export const withKey = (keys: readonly string[], key: string): string[] =>
  keys.includes(key) ? keys.filter((other) => other !== key) : [...keys, key];

/** Whether a key can close a word: a typed character, Space, Tab or Enter. */
export const canClose = (key: string): boolean => graphemes(key).length === 1 || key === "Tab" || key === "Enter";

interface Props {
  keys: readonly string[];
  /** Where they may be changed. */
  onChange?: ((keys: string[]) => void) | undefined;
}

/** Keys that are chosen by pressing them; pressed again, or clicked, they are taken out. */
export function KeyPresses({ keys, onChange }: Props) {
  const [listens, setListens] = useState(false);
  const [said, setSaid] = useState("");
  return (
    <div className="key-presses">
      <ul aria-label="Keys">
        {keys.map((key) => (
          <li key={key}>
            {onChange ? (
              <button
                type="button"
                aria-label={`Take out ${keyLabel(key)}`}
                onClick={() => onChange(withKey(keys, key))}
              >
                {keyLabel(key)} <span aria-hidden>×</span>
              </button>
            ) : (
              <kbd>{keyLabel(key)}</kbd>
            )}
          </li>
        ))}
      </ul>
      {onChange && (
        <>
          <Button
            size="small"
            type={listens ? "primary" : "default"}
            onClick={() => {
              setSaid("");
              setListens(true);
            }}
            onBlur={() => setListens(false)}
            onKeyDown={(event) => {
              if (!listens) return;
              const key = keyName(event.nativeEvent);
              if (key === undefined) return;
              event.preventDefault();
              event.stopPropagation();
              if (key === "Escape") {
                // Only the pressing is left, not what it stands in.
                event.nativeEvent.stopImmediatePropagation();
                setListens(false);
              } else if (canClose(key)) {
                setSaid(keys.includes(key) ? `${keyLabel(key)} is out.` : `${keyLabel(key)} is in.`);
                onChange(withKey(keys, key));
              } else setSaid("Closing keys are typed characters, Space, Tab and Enter.");
            }}
          >
            {listens ? "Press keys now, Escape ends it" : "Press keys to change them"}
          </Button>
          <span className="soft" role="status">
            {said}
          </span>
        </>
      )}
    </div>
  );
}
