import type { Pack } from "../api/client";

/** What looking at a pack is called; nothing where there is nothing to look at. */
export function lookWords(state: string): string | undefined {
  if (state === "offered") return "Look at it";
  return state === "changed" ? "Look at what is new" : undefined;
}

/** The packs in groups: those that want something of their owner first, then those that were added. */
export function packGroups(packs: readonly Pack[]): { title: string; packs: Pack[] }[] {
  const groups = [
    { title: "Newer than in your libraries", packs: packs.filter(({ state }) => state === "changed") },
    { title: "In your libraries", packs: packs.filter(({ state }) => state === "added") },
    { title: "On the packList", packs: packs.filter(({ state }) => state === "offered") },
  ];
  return groups.filter((group) => group.packs.length > 0);
}
