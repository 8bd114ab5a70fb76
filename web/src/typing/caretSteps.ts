import type { ResolvedPos } from "@tiptap/pm/model";
import { Selection } from "@tiptap/pm/state";
import { graphemes } from "../words/graphemes";

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
