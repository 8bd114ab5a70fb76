import type { Node, ResolvedPos } from "@tiptap/pm/model";
import { Selection } from "@tiptap/pm/state";
import { graphemes } from "./graphemes";

/** What stands before a place in its line: pictures and breaks are one sign each. */
const lineBefore = ($at: ResolvedPos): string => $at.parent.textBetween(0, $at.parentOffset, undefined, "\ufffc");

/**
 * The position some caret steps back: a step is a grapheme, a picture, or the end of a line; rules are stepped over. It is the core's
 * definition of a caret step, for an editor's document.
 */
export function stepsBack($from: ResolvedPos, steps: number): number {
  let $at = $from;
  let left = steps;
  while (left > 0) {
    const parts = graphemes(lineBefore($at));
    const taken = Math.min(left, parts.length);
    left -= taken;
    const units = parts.slice(parts.length - taken).reduce((sum, part) => sum + part.length, 0);
    $at = $at.doc.resolve($at.pos - units);
    if (left === 0 || $at.depth === 0) break;
    const previous = Selection.findFrom($at.doc.resolve($at.before()), -1, true);
    if (!previous) break;
    $at = previous.$to;
    left--;
  }
  return $at.pos;
}

/** How many caret steps a position is from the start of a document. */
export function stepsTo(doc: Node, pos: number): number {
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
