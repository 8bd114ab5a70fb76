import type { Locator } from "@playwright/test";

/** A line of a field: the blocks it lies in, and its text with its marks. */
export interface FieldLine {
  blocks: string;
  text: string;
}

export interface FieldState {
  lines: FieldLine[];
  /** Caret steps before the other end of the selection and before the caret. */
  anchor: number;
  caret: number;
}

/**
 * HTML as lines, so that what two writers write differently but means the same is the same: the paragraph of an item is implied or
 * written, marks come in one order, a table has a body or none.
 */
export function linesOf(html: string): FieldLine[] {
  const blocks = new Set([
    "P",
    "H1",
    "H2",
    "H3",
    "PRE",
    "BLOCKQUOTE",
    "UL",
    "OL",
    "LI",
    "TABLE",
    "TR",
    "TD",
    "TH",
    "HR",
  ]);
  const lines: FieldLine[] = [];
  const marksOf = (element: Element): string => {
    const style = (element as HTMLElement).style;
    if (element.tagName === "A") return `A(${element.getAttribute("href") ?? ""})`;
    if (element.tagName === "SPAN") return `SPAN(${[style.color, style.backgroundColor].join(",")})`;
    return element.tagName;
  };
  const inline = (node: Node, marks: readonly string[]): string => {
    if (node.nodeType === 3) {
      const text = (node.nodeValue ?? "").replaceAll("\u00a0", " ");
      const sorted = [...marks].sort();
      return Array.from(text, (sign) => (sorted.length > 0 ? `${sorted.join("+")}[${sign}]` : sign)).join("");
    }
    const element = node as Element;
    if (element.tagName === "BR") return element.classList.contains("ProseMirror-trailingBreak") ? "" : "⏎";
    if (element.tagName === "IMG") return "▣";
    const inner =
      element.tagName === "CODE" && element.parentElement?.tagName === "PRE" ? marks : [...marks, marksOf(element)];
    return Array.from(element.childNodes, (child) => inline(child, inner)).join("");
  };
  const walk = (element: Element, path: readonly string[]) => {
    const kids = Array.from(element.childNodes).filter(
      (child) => child.nodeType === 3 || !["COLGROUP", "COL"].includes((child as Element).tagName),
    );
    const holdsBlocks = kids.some(
      (child) =>
        child.nodeType === 1 &&
        (blocks.has((child as Element).tagName) || ["TBODY", "DIV"].includes((child as Element).tagName)),
    );
    if (!holdsBlocks) {
      const own = path.at(-1) ?? "P";
      const where = ["LI", "TD", "TH", ""].includes(own) ? [...path, "P"] : path;
      const text = kids.map((child) => inline(child, [])).join("");
      lines.push({
        blocks: where.filter(Boolean).join(">"),
        text: own.startsWith("PRE") ? text.replaceAll("\n", "⏎") : text,
      });
      return;
    }
    // Words beside blocks are a paragraph that is not written.
    let loose = "";
    const flush = () => {
      if (loose !== "") lines.push({ blocks: [...path, "P"].filter(Boolean).join(">"), text: loose });
      loose = "";
    };
    for (const child of kids) {
      const one = child as HTMLElement;
      if (child.nodeType === 3 || !(blocks.has(one.tagName) || ["TBODY", "DIV"].includes(one.tagName))) {
        loose += inline(child, []);
        continue;
      }
      flush();
      const align = one.style.textAlign;
      if (one.tagName === "HR") lines.push({ blocks: [...path, "HR"].join(">"), text: "" });
      else if (["TBODY", "DIV"].includes(one.tagName)) walk(one, path);
      else walk(one, [...path, one.tagName + (align && align !== "start" ? `(${align})` : "")]);
    }
    flush();
  };
  walk(new DOMParser().parseFromString(html, "text/html").body, []);
  return lines;
}

/** What a field on the page holds, and where its caret is. */
export async function stateOf(field: Locator): Promise<FieldState> {
  const state = await field.evaluate((element) => {
    const segmenter = new Intl.Segmenter(undefined, { granularity: "grapheme" });
    const count = (text: string) => Array.from(segmenter.segment(text)).length;
    if (element instanceof HTMLTextAreaElement || element instanceof HTMLInputElement) {
      const { value, selectionStart, selectionEnd, selectionDirection } = element;
      const [start, end] = [count(value.slice(0, selectionStart ?? 0)), count(value.slice(0, selectionEnd ?? 0))];
      const backwards = selectionDirection === "backward";
      return {
        html: "",
        lines: value.split("\n").map((text) => ({ blocks: "P", text })),
        anchor: backwards ? end : start,
        caret: backwards ? start : end,
      };
    }
    // The editor hangs on its element; its document knows positions, which the DOM does not.
    interface Doc {
      descendants(visit: (node: DocNode, at: number) => boolean): void;
    }
    interface DocNode {
      isTextblock: boolean;
      content: { size: number };
      textBetween(from: number, to: number, separator: string | undefined, leaf: string): string;
    }
    const { editor } = element as unknown as {
      editor: { getHTML(): string; state: { doc: Doc; selection: { anchor: number; head: number } } };
    };
    const stepsTo = (pos: number): number => {
      let steps = 0;
      let lines = 0;
      editor.state.doc.descendants((node, at) => {
        if (at >= pos) return false;
        if (!node.isTextblock) return true;
        if (lines++ > 0) steps++;
        const inside = Math.max(Math.min(pos - at - 1, node.content.size), 0);
        steps += count(node.textBetween(0, inside, undefined, "\ufffc"));
        return false;
      });
      return steps;
    };
    const { anchor: from, head } = editor.state.selection;
    return { html: editor.getHTML(), lines: [], anchor: stepsTo(from), caret: stepsTo(head) };
  });
  const { html, ...written } = state;
  return html === "" ? written : { ...written, lines: await field.page().evaluate(linesOf, html) };
}
