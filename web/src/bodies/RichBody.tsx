import { EditorContent, useEditor } from "@tiptap/react";
import { App } from "antd";
import { useRef, useState } from "react";
import { ApiError, type Problem } from "../api/client";
import { bodyExtensions, bodyHtml, parseOptions } from "./bodySchema";
import { ConditionBar } from "./ConditionBar";
import { InsertMenu } from "./InsertMenu";
import { Toolbar } from "./Toolbar";

interface Props {
  html: string;
  label: string;
  onChange: (html: string) => void;
}

/** The editor for a formatted body with live parts. */
export function RichBody({ html, label, onChange }: Props) {
  const { message } = App.useApp();
  const [inserting, setInserting] = useState(false);
  const openInsert = useRef(() => setInserting(true));
  const editor = useEditor({
    extensions: bodyExtensions,
    content: html,
    parseOptions,
    editorProps: {
      attributes: { "aria-label": label, role: "textbox", "aria-multiline": "true" },
      handleKeyDown: (_, event) => {
        if (event.altKey && event.key.toLowerCase() === "i") {
          openInsert.current();
          return true;
        }
        return false;
      },
      handlePaste: (_, event) => takePictures(event.clipboardData?.files),
      handleDrop: (_, event) => takePictures(event.dataTransfer?.files),
    },
    onUpdate: ({ editor: changed }) => onChange(bodyHtml(changed.state.doc)),
  });

  function takePictures(files: FileList | undefined): boolean {
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
      <ConditionBar editor={editor} />
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
