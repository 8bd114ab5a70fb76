import { keyLabel } from "../snippet/ruleWords";

/** Keys to press, one cap each. */
export function Keys({ keys }: { keys: string[] }) {
  return (
    <span className="keys">
      {keys.map((key, at) => (
        <kbd key={at}>{keyLabel(key)}</kbd>
      ))}
    </span>
  );
}
