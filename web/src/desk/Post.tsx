import Image from "@tiptap/extension-image";
import { TableKit } from "@tiptap/extension-table";
import TextAlign from "@tiptap/extension-text-align";
import { TextStyleKit } from "@tiptap/extension-text-style";
import { EditorContent, useEditor } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { useRef } from "react";
import { useTypingControl, useTypingEditor } from "../typing/useTypingField";

const place = "desk";

/** Rich mail: To, Subject, and a formatted text. */
export function Post() {
  const to = useRef<HTMLInputElement>(null);
  const subject = useRef<HTMLInputElement>(null);
  useTypingControl(to, { place, app: "post", kind: "single-line" });
  useTypingControl(subject, { place, app: "post", kind: "single-line" });
  const editor = useEditor({
    extensions: [
      StarterKit,
      TextStyleKit,
      TextAlign.configure({ types: ["paragraph", "heading"] }),
      TableKit.configure({ table: { resizable: false } }),
      Image.configure({ inline: true }),
    ],
    editorProps: { attributes: { "aria-label": "Letter", role: "textbox", "aria-multiline": "true" } },
  });
  useTypingEditor(editor, { place, app: "post", kind: "rich" });
  return (
    <section className="window post" data-window="1" aria-label="Post">
      <header>
        Post <kbd>Alt+1</kbd>
      </header>
      <div className="field-line">
        <label htmlFor="post-to">To</label>
        <input id="post-to" ref={to} defaultValue="skipper.marram@example.org" autoComplete="off" />
      </div>
      <div className="field-line">
        <label htmlFor="post-subject">Subject</label>
        <input id="post-subject" ref={subject} autoComplete="off" />
      </div>
      <EditorContent editor={editor} className="letter" />
    </section>
  );
}
