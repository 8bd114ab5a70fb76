import type { RecalledKey } from "../api/client";

/** A key that something came of, or a run of keys that nothing came of. */
export type FoldedKeys = { kind: "key"; key: RecalledKey } | { kind: "quiet"; keys: RecalledKey[] };

const isQuiet = ({ trace }: RecalledKey): boolean => trace.event === "typed" && trace.reasons.length === 0;

/** The last keys, the latest first: those that nothing came of stand together. */
export function foldedKeys(keys: readonly RecalledKey[]): FoldedKeys[] {
  const folded: FoldedKeys[] = [];
  for (const key of keys) {
    const last = folded.at(-1);
    if (!isQuiet(key)) folded.push({ kind: "key", key });
    else if (last?.kind === "quiet") last.keys.push(key);
    else folded.push({ kind: "quiet", keys: [key] });
  }
  return folded.toReversed();
}
