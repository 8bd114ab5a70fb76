import { Mark, type Extensions } from "@tiptap/core";
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
import TextAlign from "@tiptap/extension-text-align";
import { DOMParser, DOMSerializer, type Node as DocumentNode, type Schema } from "@tiptap/pm/model";
import { ListItem } from "@tiptap/extension-list";
import StarterKit from "@tiptap/starter-kit";
import { Bold } from "@tiptap/extension-bold";
import { Code } from "@tiptap/extension-code";
import { CodeBlock } from "@tiptap/extension-code-block";
import { Italic } from "@tiptap/extension-italic";
import { Link } from "@tiptap/extension-link";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Strike } from "@tiptap/extension-strike";
import { Underline } from "@tiptap/extension-underline";
import { LivePart, Notice, Passage } from "./LivePart";
import { markupOf } from "./markup";
import { InlinePassage, LeftSelected, Picture } from "../typing/marks";

/**
 * The editor's document is the body's own: every body that the program keeps can be opened and comes back the same. So white space stays,
 * items and cells hold any block, text as typed holds live parts, and formatting lies in the order in which the program keeps it.
 */

const blocks = "p, h1, h2, h3, h4, h5, h6, ul, ol, blockquote, pre, table, hr, div, aside";

/** Colours and letters, as the body writes them. */
const Styled = Mark.create({
  name: "styled",
  priority: 1070,
  addAttributes() {
    const style = (name: string) => ({ default: null, parseHTML: (element: HTMLElement) => styleOf(element, name) });
    return {
      color: { ...style("color"), rendered: false },
      background: { ...style("background-color"), rendered: false },
      family: { ...style("font-family"), rendered: false },
      size: { ...style("font-size"), rendered: false },
    };
  },
  parseHTML() {
    return [
      {
        tag: "span[style]",
        priority: 80,
        getAttrs: (element) =>
          ["color", "background-color", "font-family", "font-size"].some((name) => styleOf(element, name)) && null,
      },
    ];
  },
  renderHTML({ mark }) {
    const { color, background, family, size } = mark.attrs as Record<string, string | null>;
    const style = [
      color && `color: ${color}`,
      background && `background-color: ${background}`,
      family && `font-family: ${family}`,
      size && `font-size: ${size}`,
    ];
    const written = style.filter(Boolean).join("; ");
    // A browser writes colours in its own way; the body keeps its own.
    return ["span", { style: written, "data-style": written }, 0];
  },
});

/** A value of an element's style as it is written; one of the spans around it counts where it says nothing itself. */
function styleOf(element: Element | null, name: string): string | null {
  for (let holder = element; holder?.localName === "span"; holder = holder.parentElement) {
    const declarations = (holder.getAttribute("style") ?? "").split(";").map((part) => part.split(/:(.*)/s, 2));
    const value = declarations.findLast(([declared]) => declared?.trim().toLowerCase() === name)?.[1]?.trim();
    if (value) return value;
  }
  return null;
}

const cell = (tag: "td" | "th") => ({
  renderHTML(): [string, number] {
    return [tag, 0];
  },
});

/** All that a body can hold. */
export const bodyExtensions: Extensions = [
  StarterKit.configure({
    heading: { levels: [1, 2, 3] },
    bold: false,
    code: false,
    codeBlock: false,
    italic: false,
    link: false,
    listItem: false,
    paragraph: false,
    strike: false,
    trailingNode: false,
    underline: false,
  }),
  LeftSelected.extend({ priority: 1100 }),
  // One may lie in another, under another condition.
  InlinePassage.extend({ priority: 1090, excludes: "" }),
  Link.extend({ priority: 1080 }).configure({
    autolink: false,
    openOnClick: false,
    HTMLAttributes: { target: null, rel: null, class: null },
  }),
  Styled,
  Bold.extend({ priority: 1060 }),
  Italic.extend({ priority: 1050 }),
  Underline.extend({ priority: 1040 }),
  Strike.extend({ priority: 1030 }),
  Code.extend({ priority: 1020, excludes: "" }),
  Paragraph.extend({
    parseHTML() {
      return [
        { tag: "p" },
        // HTML ends a p where a menu begins, so such a paragraph is a div.
        {
          tag: "div",
          getAttrs: (element) => (element.hasAttribute("data-when") || element.querySelector(blocks) ? false : null),
        },
      ];
    },
  }),
  ListItem.extend({ content: "block+" }),
  CodeBlock.extend({
    content: "inline*",
    marks: "_",
    parseHTML() {
      return [{ tag: "pre", preserveWhitespace: "full" }];
    },
    renderHTML() {
      return ["pre", 0];
    },
  }),
  Table.configure({ resizable: false }).extend({
    renderHTML() {
      return ["table", ["tbody", 0]];
    },
  }),
  TableRow.extend({
    addAttributes() {
      return {
        rows: {
          default: null,
          parseHTML: (element) => element.getAttribute("data-rows"),
          renderHTML: ({ rows }) => (rows ? { "data-rows": rows as string } : {}),
        },
      };
    },
  }),
  TableHeader.extend(cell("th")),
  TableCell.extend(cell("td")),
  TextAlign.configure({ types: ["paragraph", "heading"] }),
  LivePart,
  Passage,
  Notice,
  Picture.configure({ inline: true }),
];

/** How HTML is read into a document: white space counts as it is typed. */
export const parseOptions = { preserveWhitespace: true } as const;

/** The document of a body's HTML. */
export function bodyDocument(schema: Schema, html: string): DocumentNode {
  const template = document.createElement("template");
  template.innerHTML = html;
  return DOMParser.fromSchema(schema).parse(template.content, parseOptions);
}

/** The HTML of a document; a paragraph that holds a menu is a div, because HTML ends a p there. */
export function bodyHtml(content: DocumentNode): string {
  // In a document of its own nothing is loaded, whatever the addresses of pictures look like.
  const inert = document.implementation.createHTMLDocument();
  const holder = inert.body;
  const serializer = DOMSerializer.fromSchema(content.type.schema);
  holder.append(serializer.serializeFragment(content.content, { document: inert }));
  for (const styled of holder.querySelectorAll("[style]")) {
    styled.setAttribute("style", styled.getAttribute("data-style") ?? styled.getAttribute("style")!.replace(/;$/, ""));
    styled.removeAttribute("data-style");
  }
  for (const paragraph of holder.querySelectorAll("p:has(menu)")) {
    const div = inert.createElement("div");
    for (const { name, value } of paragraph.attributes) div.setAttribute(name, value);
    div.append(...paragraph.childNodes);
    paragraph.replaceWith(div);
  }
  return Array.from(holder.childNodes, (node) => (node instanceof Element ? markupOf(node) : "")).join("");
}
