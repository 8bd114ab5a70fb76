import { useEditorState, type Editor } from "@tiptap/react";
import { Button, Dropdown, Input, Select } from "antd";
import { useRef, useState } from "react";
import { FileInput } from "../ui/FileInput";
import { FormPopover } from "../ui/FormPopover";

/** Colours for letters, dark enough to be read on white. */
const colours = [
  { name: "Buoy red", colour: "#a02c1c" },
  { name: "Lantern brown", colour: "#8f5200" },
  { name: "Weed green", colour: "#35701a" },
  { name: "Deep blue", colour: "#1f4e79" },
] as const;

/** The formatting of a body, by clicks. */
export function Toolbar({
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
      repeats: current.isActive("table") && current.getAttributes("tableRow")["rows"] !== null,
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
            ...colours.map(({ name, colour }) => ({
              key: `color-${colour}`,
              label: (
                <span className="colour-choice">
                  <span className="colour-sample" style={{ background: colour }} /> {name}
                </span>
              ),
            })),
            {
              key: "mark-#fbe8c3",
              label: (
                <span className="colour-choice">
                  <span className="colour-sample" style={{ background: "#fbe8c3" }} /> Marked with amber
                </span>
              ),
            },
            { key: "size-20px", label: "Larger letters" },
            { key: "plain", label: "Without colour and size" },
          ],
          onClick: ({ key }) => {
            const value = key.slice(key.indexOf("-") + 1);
            if (key.startsWith("align-")) run().setTextAlign(value).run();
            if (key.startsWith("color-")) run().setMark("styled", { color: value }).run();
            if (key.startsWith("mark-")) run().setMark("styled", { background: value }).run();
            if (key.startsWith("size-")) run().setMark("styled", { size: value }).run();
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
                {
                  key: "repeat",
                  label: on.repeats ? "Ask for this row once" : "Ask for this row again and again",
                },
                { key: "less-row", label: "Remove this row" },
                { key: "less-column", label: "Remove this column" },
                { key: "none", label: "Remove the table" },
              ]
            : [2, 3, 4].map((columns) => ({ key: String(columns), label: `${columns} columns` })),
          onClick: ({ key }) => {
            if (key === "row") run().addRowAfter().run();
            else if (key === "repeat")
              run()
                .updateAttributes("tableRow", { rows: on.repeats ? null : "1-20" })
                .run();
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
    <FormPopover
      name="Link"
      open={open}
      onOpenChange={(next) => {
        if (next) setAddress((editor.getAttributes("link")["href"] as string | undefined) ?? "https://");
        setOpen(next);
      }}
      content={
        <Input
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
    </FormPopover>
  );
}
