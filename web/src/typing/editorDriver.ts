import type { Editor } from "@tiptap/core";
import { DOMParser, type ResolvedPos } from "@tiptap/pm/model";
import { joinForward } from "@tiptap/pm/commands";
import { AllSelection, Selection, TextSelection } from "@tiptap/pm/state";
import type { FieldDriver } from "./FieldDriver";
import { shownHtml } from "../bodies/marks";
import { graphemes } from "./graphemes";

/** Writes to a TipTap editor; a paragraph's end or a line break counts as one grapheme. */
export function editorDriver(editor: Editor): FieldDriver {
  const { view } = editor;
  return {
    element: view.dom,
    deleteBack(count) {
      const { from, to } = view.state.selection;
      const start = positionBack(view.state.doc.resolve(from), count);
      if (start < to) view.dispatch(view.state.tr.delete(start, to).scrollIntoView());
    },
    putIn(plain, html) {
      if (html === undefined) {
        view.dispatch(view.state.tr.insertText(plain).scrollIntoView());
        return;
      }
      // A parsed document is inert: what was pasted from elsewhere cannot run or load anything.
      const holder = new globalThis.DOMParser().parseFromString(shownHtml(html), "text/html").body;
      const slice = DOMParser.fromSchema(view.state.schema).parseSlice(holder, { preserveWhitespace: "full" });
      view.dispatch(view.state.tr.replaceSelection(slice).scrollIntoView());
    },
    moveBack(steps) {
      const { state } = view;
      const to = positionBack(state.selection.$to, steps);
      view.dispatch(state.tr.setSelection(TextSelection.create(state.doc, to)).scrollIntoView());
    },
    selectBack(steps) {
      const { state } = view;
      const { $to } = state.selection;
      view.dispatch(state.tr.setSelection(TextSelection.create(state.doc, positionBack($to, steps), $to.pos)));
    },
    deleteForward() {
      const { state } = view;
      const { $to, empty } = state.selection;
      const next = graphemes($to.parent.textBetween($to.parentOffset, $to.parent.content.size, undefined, "\ufffc"))[0];
      if (!empty) view.dispatch(state.tr.deleteSelection().scrollIntoView());
      else if (next === undefined) joinForward(state, view.dispatch);
      else view.dispatch(state.tr.delete($to.pos, $to.pos + next.length).scrollIntoView());
    },
    selectAll: () => view.dispatch(view.state.tr.setSelection(new AllSelection(view.state.doc))),
    selectedText() {
      const { doc, selection } = view.state;
      return doc.textBetween(selection.from, selection.to, "\n", "\n");
    },
    move(key) {
      const { state } = view;
      const { $from, $to } = state.selection;
      const to = {
        ArrowLeft: Selection.findFrom(state.doc.resolve(Math.max($from.pos - 1, 0)), -1, true)?.from,
        ArrowRight: Selection.findFrom(state.doc.resolve(Math.min($to.pos + 1, state.doc.content.size)), 1, true)?.from,
        Home: $from.start(),
        End: $to.end(),
      }[key];
      if (to !== undefined) view.dispatch(state.tr.setSelection(TextSelection.create(state.doc, to)).scrollIntoView());
    },
  };
}

function positionBack($from: ResolvedPos, count: number): number {
  let $at = $from;
  let left = count;
  while (left > 0) {
    const before = $at.parent.textBetween(0, $at.parentOffset, undefined, "\ufffc");
    const parts = graphemes(before);
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
