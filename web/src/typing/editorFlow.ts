import { Fragment, type Mark, type Node, type Schema } from "@tiptap/pm/model";
import { TextSelection, type Transaction } from "@tiptap/pm/state";
import type { Flow } from "../api/client";

type Line = Flow["lines"][number];
type Frame = Line["frames"][number];
type Piece = Line["pieces"][number];

const isPlain = (line: Line): boolean =>
  line.frames.length === 1 && line.frames[0]?.kind === "paragraph" && line.frames[0].align === "default";

/**
 * Puts a text with its formatting in where the selection is, as the rehearsal's field does: a single paragraph goes in within the
 * line, a first paragraph goes on with it, everything else comes as blocks of its own, and what stood behind the caret comes last.
 */
export function insertFlow(tr: Transaction, flow: Flow): Transaction {
  const { schema } = tr.doc.type;
  const [first, ...others] = flow.lines;
  if (!tr.selection.empty) tr.deleteSelection();
  if (!first) return tr;
  if (others.length === 0 && isPlain(first)) return insertInline(tr, inlineNodes(schema, first.pieces));

  const { $from } = tr.selection;
  const behind = $from.parent.content.cut($from.parentOffset);
  tr.delete($from.pos, $from.end());
  const goesOn = isPlain(first);
  if (goesOn) insertInline(tr, inlineNodes(schema, first.pieces));
  const lines = goesOn ? others : flow.lines;
  const $here = tr.selection.$from;
  const replaced = !goesOn && $here.parent.content.size === 0 && canStandFor($here, schema, lines[0]);
  const from = replaced ? $here.before() : $here.after();
  const blocks = nested(schema, lines, 0, behind);
  tr.replaceWith(from, replaced ? $here.after() : from, blocks);
  const end = endOfLastLine(tr.doc, from + blocks.reduce((size, { nodeSize }) => size + nodeSize, 0)) - behind.size;
  return tr.setSelection(TextSelection.create(tr.doc, end));
}

function insertInline(tr: Transaction, nodes: readonly Node[]): Transaction {
  const at = tr.selection.from;
  tr.insert(at, Fragment.from(nodes));
  return tr.setSelection(TextSelection.create(tr.doc, at + nodes.reduce((size, node) => size + node.nodeSize, 0)));
}

/** Whether blocks may take the place of the empty line where the caret is; the first line of an item has to stay. */
function canStandFor($here: Transaction["selection"]["$from"], schema: Schema, line: Line | undefined): boolean {
  const type = line?.frames[0] && nodeType(schema, line.frames[0]);
  return type !== undefined && $here.node(-1).canReplaceWith($here.index(-1), $here.indexAfter(-1), type);
}

function endOfLastLine(doc: Node, pos: number): number {
  const $end = doc.resolve(pos);
  let end = pos;
  let node = $end.nodeBefore;
  while (node && !node.isTextblock) {
    end--;
    node = node.lastChild;
  }
  return end - 1;
}

/** Lines as blocks: those that share a frame at a depth lie in one block. */
function nested(schema: Schema, lines: readonly Line[], depth: number, behind: Fragment): Node[] {
  const nodes: Node[] = [];
  for (let at = 0; at < lines.length;) {
    const frame = lines[at]?.frames[depth];
    if (!frame) break;
    let end = at + 1;
    while (end < lines.length && lines[end]?.frames[depth]?.id === frame.id) end++;
    const inside = lines.slice(at, end);
    nodes.push(block(schema, frame, inside, depth, end === lines.length ? behind : Fragment.empty));
    at = end;
  }
  return nodes;
}

function block(schema: Schema, frame: Frame, lines: readonly Line[], depth: number, behind: Fragment): Node {
  const type = nodeType(schema, frame);
  const attributes = {
    ...(frame.kind === "heading" && { level: frame.number }),
    ...(frame.align !== "default" && { textAlign: frame.align }),
  };
  const isLine = lines[0]?.frames.length === depth + 1;
  if (frame.kind === "rule") return type.create();
  if (!isLine)
    return type.createAndFill(attributes, nested(schema, lines, depth + 1, behind)) ?? type.create(attributes);
  const isCode = frame.kind === "preformatted";
  const pieces = lines[0]?.pieces ?? [];
  const content = isCode ? codeNodes(schema, pieces) : inlineNodes(schema, pieces);
  const whole = Fragment.from(content).append(isCode ? Fragment.from(plainText(schema, behind)) : behind);
  return type.create(attributes, whole);
}

function nodeType(schema: Schema, { kind }: Frame) {
  const names: Record<string, string> = {
    heading: "heading",
    preformatted: "codeBlock",
    quote: "blockquote",
    bullets: "bulletList",
    numbers: "orderedList",
    item: "listItem",
    table: "table",
    row: "tableRow",
    cell: "tableCell",
    "header-cell": "tableHeader",
    rule: "horizontalRule",
  };
  return schema.nodes[names[kind] ?? "paragraph"] ?? schema.nodes["paragraph"]!;
}

function inlineNodes(schema: Schema, pieces: readonly Piece[]): Node[] {
  return pieces.flatMap((piece): Node[] => {
    if (piece.kind === "break") return [schema.nodes["hardBreak"]!.create()];
    if (piece.kind === "words") return [schema.text(piece.text, marks(schema, piece))];
    const { picture } = piece;
    if (!picture) return [];
    const image = schema.nodes["image"];
    if (!image) return picture.alt === "" ? [] : [schema.text(picture.alt)];
    return [image.create({ src: `/api/media/${picture.media}`, alt: picture.alt, width: picture.width })];
  });
}

const codeNodes = (schema: Schema, pieces: readonly Piece[]): Node[] => {
  const text = pieces.map((piece) => (piece.kind === "break" ? "\n" : piece.text)).join("");
  return text === "" ? [] : [schema.text(text)];
};

const plainText = (schema: Schema, fragment: Fragment): Node[] => {
  const text = fragment.textBetween(0, fragment.size, "\n", "\n");
  return text === "" ? [] : [schema.text(text)];
};

function marks(schema: Schema, piece: Piece): readonly Mark[] {
  const names: Record<string, string> = { strong: "bold", em: "italic", u: "underline", s: "strike", code: "code" };
  let all: readonly Mark[] = [];
  for (const mark of piece.marks) {
    const type =
      schema.marks[mark.kind === "link" ? "link" : mark.kind === "styled" ? "textStyle" : (names[mark.kind] ?? "")];
    if (!type) continue;
    const { style } = mark;
    const attributes =
      mark.kind === "link"
        ? { href: mark.target }
        : style && {
            color: style.color,
            backgroundColor: style.background,
            fontFamily: style.family,
            fontSize: style.size,
          };
    all = type.create(attributes).addToSet(all);
  }
  return all;
}
