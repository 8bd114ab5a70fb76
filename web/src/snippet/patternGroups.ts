import type { SnippetDocument } from "../api/client";
import { paragraphsOf } from "../bodies";

type Written = Pick<SnippetDocument, "body" | "text">;

/** A tag as it is, or a sign for a group in the text between tags. */
const tagOrGroup = /<[^>]*>|\$(\d)/g;

/** The groups of a pattern that somebody wrote as `$1` into a text. */
export function groupsTyped(written: Written): number[] {
  const found = htmlOf(written).matchAll(tagOrGroup);
  return [...new Set([...found].flatMap(([, group]) => (group === undefined ? [] : [Number(group)])))].toSorted(
    (one, other) => one - other,
  );
}

/** The same text with the live part for each of them. */
export function withGroups(written: Written): Written {
  const part = (group: string) => `<slot name="match" data-group="${group}"></slot>`;
  const replaced = (whole: string, group: string | undefined) => (group === undefined ? whole : part(group));
  return { text: null, body: htmlOf(written).replaceAll(tagOrGroup, replaced) };
}

const htmlOf = ({ body, text }: Written): string => body ?? paragraphsOf(text ?? "");
