/** Attributes that parts of a body have; all others are for a page to run or to look for, and no body keeps them. */
const kept = new Set([
  ...["alt", "checked", "href", "max", "min", "name", "pattern", "required", "rows", "selected", "size", "src"],
  ...["step", "style", "title", "type", "value", "width"],
]);

const dropped = "script, style, iframe, object, embed, template, svg, math, link, meta, base";

/** The HTML of an element. HTML forgets a line end at the start of these, so it is written twice. */
export function markupOf(element: Element): string {
  const written = element.cloneNode(true) as Element;
  for (const text of [written, ...written.querySelectorAll("pre, textarea")])
    if (text.matches("pre, textarea") && text.textContent?.startsWith("\n")) text.prepend("\n");
  return written.outerHTML;
}

/** The HTML of a live part without what is none of it: pasted from a page, it might do something there. */
export function cleanMarkup(part: Element): string {
  const clean = part.cloneNode(true) as Element;
  for (const element of clean.querySelectorAll(dropped)) element.remove();
  for (const element of [clean, ...clean.querySelectorAll("*")])
    for (const name of element.getAttributeNames())
      if (!kept.has(name) && !name.startsWith("data-")) element.removeAttribute(name);
  return markupOf(clean);
}

const escaped = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** A plain text as the HTML of a body: each line a paragraph. */
export const paragraphsOf = (text: string): string =>
  text
    .split("\n")
    .map((line) => `<p>${escaped(line)}</p>`)
    .join("");
