import { getMarkRange, useEditorState, type Editor } from "@tiptap/react";
import { AutoComplete } from "antd";
import { useState } from "react";
import { bodyHtml } from "./bodySchema";
import { conditionChoices, questionFor } from "./conditions";
import { fieldNames } from "./liveParts";

const ownQuestion = "\u0000";

/** When the caret is in an optional passage: what it goes in for, chosen from the fields there are. */
export function ConditionBar({ editor }: { editor: Editor }) {
  const { when } = useEditorState({ editor, selector: ({ editor: current }) => ({ when: conditionAt(current) }) });
  if (when === undefined) return null;
  return <Condition key={when} editor={editor} when={when} />;
}

function Condition({ editor, when }: { editor: Editor; when: string }) {
  const [draft, setDraft] = useState(when);
  const html = bodyHtml(editor.state.doc);
  const choices = conditionChoices(html);
  const choose = (formula: string) => {
    if (formula === ownQuestion) askAnew(editor, html);
    else if (formula.trim() !== "" && formula !== when) setCondition(editor, formula);
  };
  return (
    <div className="condition-bar">
      <label htmlFor="passage-condition">This passage goes in if</label>
      <AutoComplete
        id="passage-condition"
        value={choices.find((choice) => choice.formula === draft)?.label ?? draft}
        style={{ minWidth: 280 }}
        popupMatchSelectWidth={360}
        options={[
          { value: ownQuestion, label: "a yes/no question of its own is answered with yes" },
          ...choices.map(({ formula, label }) => ({ value: formula, label })),
        ]}
        filterOption={false}
        defaultActiveFirstOption={false}
        onChange={(typed) => typed !== ownQuestion && setDraft(typed)}
        onSelect={choose}
        onBlur={() => choose(draft)}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          setDraft(when);
          editor.commands.focus();
        }}
      />
      <button type="button" className="plain-button" onClick={() => takeAway(editor)}>
        Put it in always
      </button>
    </div>
  );
}

/** The condition of the passage the caret is in, the innermost first; undefined outside of any. */
function conditionAt(editor: Editor): string | undefined {
  const mark = passageMark(editor);
  if (mark) return mark.attrs["when"] as string;
  return editor.isActive("passageBlock") ? (editor.getAttributes("passageBlock")["when"] as string) : undefined;
}

function passageMark(editor: Editor) {
  const { $from } = editor.state.selection;
  // At its very start the caret counts as in it too.
  const marks = [...$from.marks(), ...($from.nodeAfter?.marks ?? [])];
  return marks.findLast((mark) => mark.type.name === "passage");
}

function setCondition(editor: Editor, when: string): void {
  const mark = passageMark(editor);
  if (!mark) {
    editor.chain().focus().updateAttributes("passageBlock", { when }).run();
    return;
  }
  change(editor, (range, tr) => {
    tr.removeMark(range.from, range.to, mark).addMark(range.from, range.to, mark.type.create({ when }));
  });
}

function takeAway(editor: Editor): void {
  const mark = passageMark(editor);
  if (!mark) editor.chain().focus().lift("passageBlock").run();
  else change(editor, (range, tr) => void tr.removeMark(range.from, range.to, mark));
}

/** A question of the passage's own stands before it; it puts in nothing itself. */
function askAnew(editor: Editor, html: string): void {
  const mark = passageMark(editor);
  const { $from } = editor.state.selection;
  const range = mark && getMarkRange($from, mark.type, mark.attrs);
  const text = range ? editor.state.doc.textBetween(range.from, range.to, " ") : $from.parent.textContent;
  const question = questionFor(text, fieldNames(html));
  const part = editor.schema.nodes["livePart"]!.create({ html: question.html });
  if (range)
    change(editor, (found, tr) => {
      tr.removeMark(found.from, found.to, mark)
        .addMark(found.from, found.to, mark.type.create({ when: question.name }))
        .insert(found.from, part);
    });
  else {
    editor.chain().focus().updateAttributes("passageBlock", { when: question.name }).run();
    const paragraph = editor.schema.nodes["paragraph"]!.create(null, part);
    const depth = Array.from({ length: $from.depth + 1 }, (_, at) => at).findLast(
      (at) => $from.node(at).type.name === "passageBlock",
    );
    if (depth !== undefined) editor.view.dispatch(editor.state.tr.insert($from.before(depth), paragraph));
  }
}

type Transaction = Editor["state"]["tr"];

function change(editor: Editor, work: (range: { from: number; to: number }, tr: Transaction) => void): void {
  const mark = passageMark(editor);
  const range = mark && getMarkRange(editor.state.selection.$from, mark.type, mark.attrs);
  if (!range) return;
  const { tr } = editor.state;
  work(range, tr);
  editor.view.dispatch(tr);
  editor.commands.focus();
}
