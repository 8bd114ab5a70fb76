import { TableKit } from "@tiptap/extension-table";
import TextAlign from "@tiptap/extension-text-align";
import { TextStyleKit } from "@tiptap/extension-text-style";
import { DOMSerializer } from "@tiptap/pm/model";
import { EditorContent, useEditor, useEditorState, type Editor } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { App, Button, Dropdown, Input, Popover, Select } from "antd";
import { useRef, useState } from "react";
import { FileInput } from "../frame/FileInput";
import { ApiError, type Problem } from "../api/client";
import { InsertMenu } from "./InsertMenu";
import { LivePart, Notice, Passage } from "./LivePart";
import { InlinePassage, LeftSelected, Picture } from "./marks";

interface Props {
  html: string;
  onChange: (html: string) => void;
}

/** The HTML of an editor's document; a paragraph that holds a menu is a div, because HTML ends a p there. */
function bodyHtml(editor: Editor): string {
  // In a document of its own nothing is loaded, whatever the addresses of pictures look like.
  const inert = document.implementation.createHTMLDocument();
  const holder = inert.body;
  holder.append(
    DOMSerializer.fromSchema(editor.schema).serializeFragment(editor.state.doc.content, { document: inert }),
  );
  for (const menu of holder.querySelectorAll("p menu")) {
    const paragraph = menu.closest("p");
    if (!paragraph) continue;
    const div = inert.createElement("div");
    div.append(...paragraph.childNodes);
    paragraph.replaceWith(div);
  }
  return holder.innerHTML;
}

/** The editor for a formatted body with live parts. */
export function RichBody({ html, onChange }: Props) {
  const { message } = App.useApp();
  const [inserting, setInserting] = useState(false);
  const openInsert = useRef(() => setInserting(true));
  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [1, 2, 3] },
        codeBlock: { HTMLAttributes: {} },
        link: { openOnClick: false, HTMLAttributes: { target: null, rel: null } },
      }),
      TextStyleKit,
      TextAlign.configure({ types: ["paragraph", "heading"] }),
      TableKit.configure({ table: { resizable: false } }),
      LivePart,
      Passage,
      Notice,
      InlinePassage,
      LeftSelected,
      Picture.configure({ inline: true }),
    ],
    content: html,
    editorProps: {
      attributes: { "aria-label": "What goes in", role: "textbox", "aria-multiline": "true" },
      handleKeyDown: (_, event) => {
        if (event.altKey && event.key.toLowerCase() === "i") {
          openInsert.current();
          return true;
        }
        return false;
      },
      handlePaste: (view, event) => takePictures(view.dom, event.clipboardData?.files),
      handleDrop: (view, event) => takePictures(view.dom, event.dataTransfer?.files),
    },
    onUpdate: ({ editor: changed }) => onChange(bodyHtml(changed)),
  });

  function takePictures(_: HTMLElement, files: FileList | undefined): boolean {
    const pictures = Array.from(files ?? []).filter((file) => file.type.startsWith("image/"));
    for (const picture of pictures) void addPicture(picture);
    return pictures.length > 0;
  }

  async function addPicture(file: File): Promise<void> {
    try {
      const answer = await fetch("/api/media", {
        method: "POST",
        headers: { "content-type": "application/octet-stream" },
        body: file,
      });
      const body: unknown = await answer.json();
      if (!answer.ok) throw new ApiError(body as Problem);
      editor
        .chain()
        .focus()
        .setImage({ src: `media:${(body as { id: string }).id}`, alt: file.name.replace(/\.\w+$/, "") })
        .run();
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
  }

  return (
    <div className="rich-body">
      <Toolbar editor={editor} onInsert={() => setInserting(true)} onPicture={(file) => void addPicture(file)} />
      {inserting && (
        <InsertMenu
          editor={editor}
          onDone={() => {
            setInserting(false);
            editor.commands.focus();
          }}
        />
      )}
      <EditorContent editor={editor} className="rich-text" />
    </div>
  );
}

function Toolbar({
  editor,
  onInsert,
  onPicture,
}: {
  editor: Editor;
  onInsert: () => void;
  onPicture: (file: File) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const on = useEditorState({
    editor,
    selector: ({ editor: current }) => ({
      bold: current.isActive("bold"),
      italic: current.isActive("italic"),
      underline: current.isActive("underline"),
      strike: current.isActive("strike"),
      code: current.isActive("code"),
      bullets: current.isActive("bulletList"),
      numbers: current.isActive("orderedList"),
      quote: current.isActive("blockquote"),
      table: current.isActive("table"),
      block: current.isActive("heading", { level: 1 })
        ? "1"
        : current.isActive("heading", { level: 2 })
          ? "2"
          : current.isActive("heading", { level: 3 })
            ? "3"
            : current.isActive("codeBlock")
              ? "pre"
              : "p",
      align:
        (["left", "center", "right", "justify"] as const).find((align) => current.isActive({ textAlign: align })) ??
        "left",
    }),
  });
  const run = () => editor.chain().focus();
  const mark = (label: string, active: boolean, title: string, act: () => void) => (
    <button type="button" className="tool" aria-pressed={active} title={title} aria-label={title} onClick={act}>
      {label}
    </button>
  );
  return (
    <div className="toolbar" role="toolbar" aria-label="Formatting">
      <Select
        size="small"
        variant="borderless"
        aria-label="Kind of paragraph"
        value={on.block}
        style={{ width: 118 }}
        options={[
          { value: "p", label: "Paragraph" },
          { value: "1", label: "Heading 1" },
          { value: "2", label: "Heading 2" },
          { value: "3", label: "Heading 3" },
          { value: "pre", label: "As typed" },
        ]}
        onChange={(block) => {
          if (block === "p") run().setParagraph().run();
          else if (block === "pre") run().setCodeBlock().run();
          else
            run()
              .setHeading({ level: Number(block) as 1 | 2 | 3 })
              .run();
        }}
      />
      {mark("B", on.bold, "Bold (Ctrl+B)", () => run().toggleBold().run())}
      {mark("I", on.italic, "Italic (Ctrl+I)", () => run().toggleItalic().run())}
      {mark("U", on.underline, "Underlined (Ctrl+U)", () => run().toggleUnderline().run())}
      {mark("S", on.strike, "Struck through", () => run().toggleStrike().run())}
      {mark("{ }", on.code, "Code", () => run().toggleCode().run())}
      {mark("•", on.bullets, "List with bullets", () => run().toggleBulletList().run())}
      {mark("1.", on.numbers, "List with numbers", () => run().toggleOrderedList().run())}
      {mark("❝", on.quote, "Quotation", () => run().toggleBlockquote().run())}
      <Dropdown
        trigger={["click"]}
        menu={{
          items: [
            { key: "align-left", label: "Left" },
            { key: "align-center", label: "Centred" },
            { key: "align-right", label: "Right" },
            { type: "divider" },
            ...["#a02c1c", "#8f5200", "#35701a", "#1f4e79"].map((color) => ({
              key: `color-${color}`,
              label: <span style={{ color }}>Text in this colour</span>,
            })),
            {
              key: "mark-#fbe8c3",
              label: <span style={{ background: "#fbe8c3", color: "#14342b" }}>Marked background</span>,
            },
            { key: "size-20px", label: "Larger letters" },
            { key: "plain", label: "Without colour and size" },
          ],
          onClick: ({ key }) => {
            const value = key.slice(key.indexOf("-") + 1);
            if (key.startsWith("align-")) run().setTextAlign(value).run();
            if (key.startsWith("color-")) run().setColor(value).run();
            if (key.startsWith("mark-")) run().setBackgroundColor(value).run();
            if (key.startsWith("size-")) run().setFontSize(value).run();
            if (key === "plain") run().unsetAllMarks().run();
          },
        }}
      >
        <button type="button" className="tool" title="Alignment and colours">
          Look
        </button>
      </Dropdown>
      <Dropdown
        trigger={["click"]}
        menu={{
          items: on.table
            ? [
                { key: "row", label: "Row below" },
                { key: "column", label: "Column to the right" },
                { key: "less-row", label: "Remove this row" },
                { key: "less-column", label: "Remove this column" },
                { key: "none", label: "Remove the table" },
              ]
            : [2, 3, 4].map((columns) => ({ key: String(columns), label: `${columns} columns` })),
          onClick: ({ key }) => {
            if (key === "row") run().addRowAfter().run();
            else if (key === "column") run().addColumnAfter().run();
            else if (key === "less-row") run().deleteRow().run();
            else if (key === "less-column") run().deleteColumn().run();
            else if (key === "none") run().deleteTable().run();
            else
              run()
                .insertTable({ rows: 3, cols: Number(key), withHeaderRow: true })
                .run();
          },
        }}
      >
        <button type="button" className="tool" title="Table">
          Table
        </button>
      </Dropdown>
      <LinkTool editor={editor} />
      <button
        type="button"
        className="tool"
        title="Picture: choose, paste or drop one"
        onClick={() => file.current?.click()}
      >
        Picture
      </button>
      <FileInput
        ref={file}
        accept="image/png,image/jpeg,image/gif,image/webp"
        label="Picture file"
        onFile={onPicture}
      />
      <span className="spacer" />
      <Button size="small" type="primary" onClick={onInsert}>
        Live part <kbd className="on-primary">Alt+I</kbd>
      </Button>
    </div>
  );
}

function LinkTool({ editor }: { editor: Editor }) {
  const [open, setOpen] = useState(false);
  const [address, setAddress] = useState("");
  const set = () => {
    const chain = editor.chain().focus().extendMarkRange("link");
    if (address === "") chain.unsetLink().run();
    else if (editor.state.selection.empty && !editor.isActive("link"))
      chain.insertContent({ type: "text", text: address, marks: [{ type: "link", attrs: { href: address } }] }).run();
    else chain.setLink({ href: address }).run();
    setOpen(false);
  };
  return (
    <Popover
      open={open}
      trigger="click"
      destroyOnHidden
      onOpenChange={(next) => {
        if (next) setAddress((editor.getAttributes("link")["href"] as string | undefined) ?? "https://");
        setOpen(next);
      }}
      content={
        <Input
          autoFocus
          aria-label="Address"
          value={address}
          style={{ width: 320 }}
          onChange={(event) => setAddress(event.target.value)}
          onPressEnter={set}
        />
      }
    >
      <button type="button" className="tool" title="Link (empty takes it away)">
        Link
      </button>
    </Popover>
  );
}
