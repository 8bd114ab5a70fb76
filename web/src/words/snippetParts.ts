import type { SnippetDocument } from "../api/client";

/**
 * The parts of a snippet that are saved for themselves, with the members of its document that hold them: as the core says them
 * (`SnippetParts`). Triggers are parts of their own, one by one.
 */
export const snippetParts = {
  name: ["name"],
  note: ["note"],
  enabled: ["enabled"],
  private: ["private"],
  delivery: ["delivery", "leaveOnClipboard", "links"],
  body: ["body", "text"],
  twin: ["twin"],
  tags: ["tags"],
} as const satisfies Record<string, readonly (keyof SnippetDocument)[]>;

export type PartName = keyof typeof snippetParts;

/** What a person calls them, with the triggers as a whole. */
export const partTitles: Readonly<Record<PartName | "triggers", string>> = {
  name: "the name",
  enabled: "the switch",
  note: "the note",
  private: "privacy",
  delivery: "how it goes in",
  body: "what goes in",
  twin: "the plain twin",
  tags: "the tags",
  triggers: "what sets it off",
};

export const partNames = Object.keys(snippetParts) as PartName[];

/** Members that belong to no part: this does not compile while there are any besides triggers and a mirror file's key. */
type Untold = Exclude<keyof SnippetDocument, "triggers" | "key" | (typeof snippetParts)[PartName][number]>;
export type EveryMemberIsTold = [Untold] extends [never] ? true : never;
true satisfies EveryMemberIsTold;
