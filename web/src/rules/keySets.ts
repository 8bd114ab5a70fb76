import type { KeySet } from "../api/client";

/** The name of the set that has the same keys, in whatever order; undefined when none has. */
export const nameOfKeys = (sets: readonly KeySet[], keys: readonly string[]): string | undefined =>
  sets.find((set) => set.keys.length === keys.length && set.keys.every((key) => keys.includes(key)))?.name;
