import type { SnippetDocument } from "../api/client";

type Written = Pick<SnippetDocument, "body" | "text">;

/** A tag as it is, or a sign for a group in the text between tags. */
const tagOrGroup = /<[^>]*>|\$(\d)/g;

const escape = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** The groups of a pattern that somebody wrote as `$1` into a text. */
export function groupsTyped({ body, text }: Written): number[] {
  const found = (body ?? escape(text ?? "")).matchAll(tagOrGroup);
  return [...new Set([...found].flatMap(([, group]) => (group === undefined ? [] : [Number(group)])))].toSorted(
    (one, other) => one - other,
  );
}

/** The same text with the live part for each of them. */
export function withGroups({ body, text }: Written): Written {
  const html =
    body ??
    (text ?? "")
      .split("\n")
      .map((line) => `<p>${escape(line)}</p>`)
      .join("");
  const part = (group: string) => `<slot name="match" data-group="${group}"></slot>`;
  return {
    text: null,
    body: html.replaceAll(tagOrGroup, (whole, group: string | undefined) =>
      group === undefined ? whole : part(group),
    ),
  };
}
