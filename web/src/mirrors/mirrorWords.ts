import type { Mirror } from "../api/client";
import { partTitles } from "../words/snippetParts";

/** How a mirrored library and its file stand to each other, in a few words. */
export function stateWords({ state, conflicts }: Pick<Mirror, "state" | "conflicts">): string {
  switch (state) {
    case "in-step":
      return "in step";
    case "undecided":
      return conflicts.length === 1 ? "1 choice to make" : `${conflicts.length} choices to make`;
    case "waiting":
      return "waiting";
    default:
      return "needs you";
  }
}

const titles: Readonly<Record<string, string>> = {
  ...partTitles,
  rules: "the rules",
  defaults: "the rules for new snippets",
};

/** A part of a thing, as a sentence begins with it. */
export function partWords(part: string): string {
  const title = titles[part] ?? part;
  return title.slice(0, 1).toUpperCase() + title.slice(1);
}

/** The mirrored libraries by folder, in the order of their first. */
export function inFolders(mirrors: readonly Mirror[]): { folder: string; libraries: Mirror[] }[] {
  const folders = new Map<string, Mirror[]>();
  for (const mirror of mirrors) {
    const there = folders.get(mirror.folder);
    if (there) there.push(mirror);
    else folders.set(mirror.folder, [mirror]);
  }
  return [...folders].map(([folder, libraries]) => ({ folder, libraries }));
}
