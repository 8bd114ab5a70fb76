import { mergeAttributes, Node } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";
import { NodeViewWrapper, ReactNodeViewRenderer, type ReactNodeViewProps } from "@tiptap/react";
import { useState } from "react";
import { FormPopover } from "../ui/FormPopover";
import { cleanMarkup } from "./markup";
import { kindOf, partElement } from "./liveParts";
import { PartForm } from "./PartForm";
import { usePartValue } from "./partValues";
import { useSnippetPath } from "./useSnippetPath";

/** A live part in the editor: an inline chip that keeps its HTML as it is. */
export const LivePart = Node.create({
  name: "livePart",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,

  addAttributes() {
    return { html: { default: "" } };
  },

  parseHTML() {
    return [
      "time[data-pattern]",
      "input[name]",
      "textarea[name]",
      "select[name]",
      "output[data-formula]",
      "slot[name]",
      "wbr[data-caret]",
      "kbd",
      "menu[data-pick]",
      "a[data-open]",
    ].map((tag) => ({ tag, priority: 100, getAttrs: (element: HTMLElement) => ({ html: cleanMarkup(element) }) }));
  },

  renderHTML({ node }) {
    return { dom: partElement(node.attrs["html"] as string) };
  },

  renderText({ node }) {
    return partElement(node.attrs["html"] as string).textContent ?? "";
  },

  addNodeView() {
    return ReactNodeViewRenderer(Chip, { as: "span" });
  },

  addKeyboardShortcuts() {
    // The arrows select a chip, and Enter opens its form.
    return {
      Enter: ({ editor }) => {
        const { selection } = editor.state;
        if (!(selection instanceof NodeSelection) || selection.node.type.name !== this.name) return false;
        const chip = editor.view.nodeDOM(selection.from);
        if (chip instanceof HTMLElement) chip.querySelector<HTMLElement>("button.chip")?.click();
        return true;
      },
    };
  },
});

function Chip({ node, selected, updateAttributes, deleteNode, editor }: ReactNodeViewProps) {
  const html = node.attrs["html"] as string;
  const part = partElement(html);
  const kind = kindOf(part);
  const value = usePartValue(html);
  const [open, setOpen] = useState(false);
  const isField = part.matches("input, textarea, select");
  const names = {
    caret: "caret",
    uuid: "unique id",
    open: part.getAttribute("href") ?? "",
    wait: part.getAttribute("data-for") ?? "",
    key: part.textContent ?? "",
    run: part.textContent ?? "",
  };
  const reference = useSnippetPath(part.getAttribute("data-ref") ?? "");
  const from = part.getAttribute("data-from");
  const label = from
    ? `${from}: ${part.getAttribute("data-pattern") ?? ""}`
    : isField
      ? part.getAttribute("title") || part.getAttribute("name")
      : kind && kind.id in names
        ? names[kind.id as keyof typeof names]
        : kind?.id === "clipboard" || kind?.id === "selection"
          ? kind.id
          : kind?.id === "calculation"
            ? part.getAttribute("data-formula")
            : kind?.id === "snippet"
              ? reference
              : kind?.id === "group"
                ? `group ${part.getAttribute("data-group") ?? "0"}`
                : value?.text;
  const problem = value?.problem ?? undefined;
  return (
    <NodeViewWrapper as="span" className="chip-holder">
      <FormPopover
        open={open && editor.isEditable}
        onOpenChange={setOpen}
        placement="bottomLeft"
        name={kind?.name ?? "Live part"}
        titled
        content={
          <PartForm
            html={html}
            comesTo={kind?.id === "date" && !problem ? value?.text : undefined}
            problem={problem}
            onChange={(next) => updateAttributes({ html: next })}
            onRemove={deleteNode}
          />
        }
      >
        <button
          type="button"
          // The arrows of the text reach it; Tab goes on to what follows the text.
          tabIndex={-1}
          className={`chip${selected ? " selected" : ""}${problem ? " wrong" : ""}`}
          data-part={kind?.id}
          title={problem ?? kind?.name}
          contentEditable={false}
        >
          {kind?.id === "caret" ? "⌶" : label || "…"}
        </button>
      </FormPopover>
    </NodeViewWrapper>
  );
}

/** A stretch of text that goes in when a condition holds. */
export const Passage = Node.create({
  name: "passageBlock",
  group: "block",
  content: "block+",
  defining: true,
  addAttributes() {
    return {
      when: {
        default: "",
        parseHTML: (element) => element.getAttribute("data-when"),
        renderHTML: (attributes) => ({ "data-when": attributes["when"] as string }),
      },
    };
  },
  parseHTML() {
    return [{ tag: "div[data-when]" }];
  },
  renderHTML({ HTMLAttributes }) {
    return ["div", HTMLAttributes, 0];
  },
});

/** Shown to the user, not put in. */
export const Notice = Node.create({
  name: "notice",
  group: "block",
  content: "inline*",
  parseHTML() {
    return [{ tag: "aside[data-notice]" }];
  },
  renderHTML({ HTMLAttributes }) {
    return ["aside", mergeAttributes(HTMLAttributes, { "data-notice": "" }), 0];
  },
});
