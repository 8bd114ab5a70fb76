import type { RecalledKey } from "../api/client";
import { isTyped } from "../ui/keys";

/** The text typed since the tail last began anew. */
export function typedTail(keys: readonly RecalledKey[]): string {
  let text = "";
  for (const { key, trace } of keys) {
    if (trace.event === "reset" || trace.event === "fires") text = "";
    else if (key === "Backspace") text = text.slice(0, -1);
    else if (key === "Enter") text += "\n";
    else if (key === "Tab") text += "\t";
    else if (isTyped(key)) text += key;
  }
  return text;
}
