import type { SnippetDocument } from "../api/client";
import { kindOf } from "./liveParts";

const blocks = "p, h1, h2, h3, li, blockquote, pre, tr, div, aside";

/** A body in words: a line for each block, live parts by their names between angle brackets, and no markup. */
export function bodyWords(html: string): string {
  const template = document.createElement("template");
  template.innerHTML = html;
  for (const part of template.content.querySelectorAll("*")) {
    const name = partName(part);
    if (name !== undefined) part.replaceWith(`⟨${name}⟩`);
  }
  for (const line of template.content.querySelectorAll("br")) line.replaceWith("\n");
  for (const cell of template.content.querySelectorAll("td + td, th + th")) cell.before(" | ");
  for (const block of template.content.querySelectorAll(blocks)) block.append("\n");
  return (template.content.textContent ?? "").replaceAll(/\n{2,}/g, "\n").trim();
}

/** What a snippet or its plain twin puts in, in words, to be told from another state of it. */
export const wordsOf = ({ body, text }: Pick<SnippetDocument, "body" | "text">): string =>
  body == null ? (text ?? "") : bodyWords(body);

/** What a live part is called, with what one tells it from others by; undefined for what is no live part. */
function partName(part: Element): string | undefined {
  if (part.localName === "img") return `picture: ${part.getAttribute("alt") ?? ""}`;
  const kind = kindOf(part);
  if (!kind) return undefined;
  switch (kind.id) {
    case "key":
    case "run":
      return part.textContent ?? "";
    case "go-to":
      return `go to ${part.getAttribute("data-field") || part.getAttribute("data-app")}`;
    case "wait":
      return "pause";
    case "date":
      return `${kind.name.toLowerCase()}: ${part.getAttribute("data-pattern")}`;
    case "calculation":
      return part.getAttribute("data-formula") ?? "";
    default:
      return part.getAttribute("title") ?? part.getAttribute("name") ?? kind.name.toLowerCase();
  }
}
