// @vitest-environment jsdom
import { getSchema } from "@tiptap/core";
import { TableKit } from "@tiptap/extension-table";
import TextAlign from "@tiptap/extension-text-align";
import { TextStyleKit } from "@tiptap/extension-text-style";
import type { Node } from "@tiptap/pm/model";
import { EditorState, TextSelection } from "@tiptap/pm/state";
import StarterKit from "@tiptap/starter-kit";
import { describe, expect, test } from "vitest";
import type { Flow } from "../api/client";
import { stepsBack } from "./caretSteps";
import { insertFlow } from "./editorFlow";
import { graphemes } from "../words/graphemes";

const schema = getSchema([
  StarterKit,
  TextStyleKit,
  TextAlign.configure({ types: ["paragraph", "heading"] }),
  TableKit,
]);

type Line = Flow["lines"][number];
let ids = 0;
const frame = (kind: string, more: Partial<Line["frames"][number]> = {}) => ({
  id: ++ids,
  kind,
  number: 0,
  align: "default",
  ...more,
});
const words = (text: string, ...marks: string[]): Line["pieces"][number] =>
  ({ kind: "words", text, marks: marks.map((kind) => ({ kind })) }) as Line["pieces"][number];
const paragraph = (...pieces: Line["pieces"]): Line => ({ frames: [frame("paragraph")], pieces });
const line = (frames: Line["frames"], ...pieces: Line["pieces"]): Line => ({ frames, pieces });

/** A document of paragraphs with a caret where `|` stands. */
function stateOf(...texts: string[]): EditorState {
  let at = -1;
  let pos = 0;
  const paragraphs = texts.map((text) => {
    const caret = text.indexOf("|");
    const plain = text.replace("|", "");
    if (caret >= 0) at = pos + 1 + caret;
    const node = schema.nodes["paragraph"]!.create(null, plain === "" ? [] : [schema.text(plain)]);
    pos += node.nodeSize;
    return node;
  });
  const doc = schema.nodes["doc"]!.create(null, paragraphs);
  return EditorState.create({ doc, selection: TextSelection.create(doc, at) });
}

/** A document in short, with the caret in it. */
function written(state: EditorState): string {
  const { from } = state.selection;
  const one = (node: Node, pos: number): string => {
    if (node.isTextblock) {
      let text = "";
      node.forEach((child, offset) => {
        const start = pos + 1 + offset;
        const own = child.isText ? (child.text ?? "") : child.type.name === "hardBreak" ? "⏎" : "?";
        const cut = from - start;
        const marked = cut > 0 && cut < child.nodeSize ? `${own.slice(0, cut)}|${own.slice(cut)}` : own;
        const before = cut === 0 ? "|" : "";
        text +=
          before +
          (child.marks.length > 0 ? `${child.marks.map((mark) => mark.type.name).join("+")}[${marked}]` : marked);
      });
      if (from === pos + 1 + node.content.size) text += "|";
      return `${node.type.name}(${text})`;
    }
    if (node.isLeaf) return node.type.name;
    const inside: string[] = [];
    node.forEach((child, offset) => inside.push(one(child, pos + 1 + offset)));
    return `${node.type.name}(${inside.join(" ")})`;
  };
  const blocks: string[] = [];
  state.doc.forEach((child, offset) => blocks.push(one(child, offset)));
  return blocks.join(" ");
}

const put = (state: EditorState, ...lines: Line[]): string => {
  const tr = insertFlow(state.tr, { lines });
  tr.doc.check();
  return written(state.apply(tr));
};

describe("a text with its formatting", () => {
  test("a single paragraph goes in within the line, white space and all", () => {
    expect(put(stateOf("a|b"), paragraph(words("  x ")))).toBe("paragraph(a  x |b)");
    expect(put(stateOf("a|b"), paragraph(words("x", "strong"), words(" y")))).toBe("paragraph(abold[x] y|b)");
    expect(put(stateOf("|"), paragraph(words(" ")))).toBe("paragraph( |)");
  });

  test("the first paragraph goes on with the line, what stood behind comes last", () => {
    expect(put(stateOf("a|b", "c"), paragraph(words("one")), paragraph(words("two")))).toBe(
      "paragraph(aone) paragraph(two|b) paragraph(c)",
    );
  });

  test("other blocks come behind the line, or in the place of an empty one", () => {
    const heading = () => line([frame("heading", { number: 2 })], words("head"));
    expect(put(stateOf("a|b"), heading())).toBe("paragraph(a) heading(head|b)");
    expect(put(stateOf("|"), heading())).toBe("heading(head|)");
    expect(put(stateOf("x", "|", "y"), heading())).toBe("paragraph(x) heading(head|) paragraph(y)");
  });

  test("lines that share a frame lie in one block", () => {
    const list = frame("bullets");
    const item = (number: number) => [list, frame("item", { number }), frame("paragraph")];
    expect(put(stateOf("|"), line(item(1), words("one")), line(item(2), words("two")))).toBe(
      "bulletList(listItem(paragraph(one)) listItem(paragraph(two|)))",
    );
    const table = frame("table");
    const row = frame("row");
    const cell = () => [table, row, frame("cell"), frame("paragraph")];
    expect(put(stateOf("|"), line(cell(), words("a")), line(cell(), words("b")))).toBe(
      "table(tableRow(tableCell(paragraph(a)) tableCell(paragraph(b|))))",
    );
  });

  test("code keeps its spaces and lines and takes no marks", () => {
    const code = line([frame("preformatted")], words("a  b", "strong"), { ...words(""), kind: "break" }, words("c"));
    expect(put(stateOf("|"), code)).toBe("codeBlock(a  b\nc|)");
  });

  test("a rule is a block, and the text goes on behind it", () => {
    expect(put(stateOf("a|"), line([frame("rule")]), paragraph(words("down")))).toBe(
      "paragraph(a) horizontalRule paragraph(down|)",
    );
  });

  test("alignment, breaks and links", () => {
    const centred = line([frame("paragraph", { align: "center" })], words("mid"));
    const state = stateOf("|");
    const after = state.apply(insertFlow(state.tr, { lines: [centred] }));
    expect(after.doc.firstChild?.attrs["textAlign"]).toBe("center");
    expect(put(stateOf("|"), paragraph(words("a"), { ...words(""), kind: "break" }, words("b")))).toBe(
      "paragraph(a⏎b|)",
    );
    const link = { ...words("x"), marks: [{ kind: "link", target: "https://example.org/" }] } as Line["pieces"][number];
    expect(put(stateOf("|"), paragraph(link))).toBe("paragraph(link[x]|)");
  });

  test("what is selected is replaced", () => {
    const state = stateOf("abc|");
    const selected = state.apply(state.tr.setSelection(TextSelection.create(state.doc, 2, 4)));
    expect(put(selected, paragraph(words("X")))).toBe("paragraph(aX|)");
  });
});

/** How many caret steps a position is from the start of a document, counted from there. */
function stepsTo(doc: Node, pos: number): number {
  let steps = 0;
  let lines = 0;
  doc.descendants((node, at) => {
    if (!node.isTextblock || at >= pos) return at < pos;
    if (lines++ > 0) steps++;
    const inside = Math.min(pos - at - 1, node.content.size);
    steps += graphemes(node.textBetween(0, Math.max(inside, 0), undefined, "\ufffc")).length;
    return false;
  });
  return steps;
}

describe("caret steps", () => {
  const doc = schema.nodeFromJSON({
    type: "doc",
    content: [
      { type: "paragraph", content: [{ type: "text", text: "ae\u0301👩‍👩‍👧" }] },
      { type: "horizontalRule" },
      {
        type: "bulletList",
        content: [
          {
            type: "listItem",
            content: [{ type: "paragraph", content: [{ type: "text", text: "b" }, { type: "hardBreak" }] }],
          },
        ],
      },
      { type: "paragraph" },
    ],
  });
  const end = doc.content.size - 1;

  test("graphemes, breaks and line ends are one each; a rule is none", () => {
    expect(stepsTo(doc, end)).toBe(3 + 1 + 2 + 1);
    expect(stepsTo(doc, 1)).toBe(0);
  });

  test("so many steps back is so many steps less, everywhere", () => {
    for (let steps = 0; steps <= 7; steps++) expect(stepsTo(doc, stepsBack(doc.resolve(end), steps))).toBe(7 - steps);
    expect(stepsBack(doc.resolve(end), 99)).toBe(1);
  });
});
