import type { Editor } from "@tiptap/core";
import { joinForward, selectNodeForward } from "@tiptap/pm/commands";
import { DOMParser, type Node } from "@tiptap/pm/model";
import { AllSelection, TextSelection, type Selection } from "@tiptap/pm/state";
import { shownHtml } from "./marks";
import { stepsBack } from "./caretSteps";
import { insertFlow } from "./editorFlow";
import type { FieldDriver } from "./FieldDriver";
import { graphemes } from "../words/graphemes";

/** Writes to a TipTap editor. */
export function editorDriver(editor: Editor): FieldDriver {
  const { view } = editor;
  let remembered: { doc: Node; selection: Selection } | undefined;
  const remove = (from: number, to: number) => {
    if (from < to) view.dispatch(view.state.tr.delete(from, to).scrollIntoView());
  };
  const select = (anchor: number, head: number) => {
    const { state } = view;
    view.dispatch(state.tr.setSelection(TextSelection.create(state.doc, anchor, head)).scrollIntoView());
  };
  /** The editor learns of a caret that the browser has moved only a moment later; what is done here must not come before. */
  const sync = () => {
    const selection = getSelection();
    const { state } = view;
    if (!selection?.anchorNode || !selection.focusNode || !view.hasFocus()) return;
    if (!(state.selection instanceof TextSelection) || !view.dom.contains(selection.anchorNode)) return;
    const anchor = view.posAtDOM(selection.anchorNode, selection.anchorOffset);
    const head = view.posAtDOM(selection.focusNode, selection.focusOffset);
    const isText = (pos: number) => state.doc.resolve(pos).parent.inlineContent;
    if ((anchor !== state.selection.anchor || head !== state.selection.head) && isText(anchor) && isText(head))
      select(anchor, head);
  };
  return {
    element: view.dom,
    // The browser puts the caret at the start; the editor knows where it was.
    focus: () => view.focus(),
    deleteBack(count) {
      sync();
      const { $from, to } = view.state.selection;
      remove(stepsBack($from, count), to);
    },
    putIn(plain, flow) {
      sync();
      const { tr } = view.state;
      view.dispatch((flow ? insertFlow(tr, flow) : tr.insertText(plain)).scrollIntoView());
    },
    paste(plain, html) {
      sync();
      if (html === undefined) {
        view.pasteText(plain);
        return;
      }
      // A parsed document is inert: what was copied elsewhere cannot run or load anything.
      const holder = new globalThis.DOMParser().parseFromString(shownHtml(html), "text/html").body;
      const slice = DOMParser.fromSchema(view.state.schema).parseSlice(holder, { preserveWhitespace: true });
      view.dispatch(view.state.tr.replaceSelection(slice).scrollIntoView());
    },
    remember() {
      sync();
      remembered = { doc: view.state.doc, selection: view.state.selection };
    },
    takeBack(steps) {
      if (!remembered) {
        const { $from, to } = view.state.selection;
        remove(stepsBack($from, steps), to);
        return;
      }
      const { doc, selection } = remembered;
      remembered = undefined;
      const { state } = view;
      const tr = state.tr.replaceWith(0, state.doc.content.size, doc.content);
      view.dispatch(tr.setSelection(TextSelection.create(tr.doc, selection.anchor, selection.head)).scrollIntoView());
    },
    moveBack(steps) {
      sync();
      const to = stepsBack(view.state.selection.$to, steps);
      select(to, to);
    },
    selectBack(steps) {
      sync();
      const { $to } = view.state.selection;
      select(stepsBack($to, steps), $to.pos);
    },
    selectedText() {
      sync();
      const { doc, selection } = view.state;
      return doc.textBetween(selection.from, selection.to, "\n", "\n");
    },
    endsLine() {
      sync();
      const { $to, empty } = view.state.selection;
      const next = $to.nodeAfter;
      return empty && $to.parent.inlineContent && (next === null || next.type.name === "hardBreak");
    },
    deleteSelection() {
      sync();
      const { state } = view;
      if (state.selection.empty) return false;
      view.dispatch(state.tr.deleteSelection().scrollIntoView());
      return true;
    },
    deleteForward() {
      sync();
      const { state } = view;
      const { $to } = state.selection;
      const next = graphemes($to.parent.textBetween($to.parentOffset, $to.parent.content.size, undefined, "\ufffc"))[0];
      if (next !== undefined) remove($to.pos, $to.pos + next.length);
      else if (!joinForward(state, view.dispatch)) selectNodeForward(state, view.dispatch);
    },
    breakLine: () => view.dispatch(view.state.tr.insertText("\n")),
    command(name) {
      // The editor has done on the key what it knows; what is left is the browser's.
      if (name === "selectAll") view.dispatch(view.state.tr.setSelection(new AllSelection(view.state.doc)));
      else if (name === "copy" || name === "cut") document.execCommand(name);
    },
    syncSelection: sync,
  };
}
