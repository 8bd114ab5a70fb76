import { keyLabel } from "../words/ruleWords";
import "./safety.css";

/** Keys to press, one cap each, and the pauses between them. */
export function Keys({ keys }: { keys: readonly unknown[] }) {
  return (
    <span className="keys">
      {keys.map((key, at) =>
        typeof key === "string" ? (
          <kbd key={at}>{keyLabel(key)}</kbd>
        ) : (
          <span key={at} className="soft">
            and wait
          </span>
        ),
      )}
    </span>
  );
}
