import Image from "@tiptap/extension-image";
import { TableKit } from "@tiptap/extension-table";
import TextAlign from "@tiptap/extension-text-align";
import { TextStyleKit } from "@tiptap/extension-text-style";
import { EditorContent, useEditor } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { useRef } from "react";
import { useTypingControl } from "../typing/useTypingControl";
import { useTypingEditor } from "../typing/useTypingEditor";
import { deskPlace as place } from "../words/deskApps";
import { DeskWindow } from "./DeskWindow";
import { useKept } from "./useKept";
import "../ui/richText.css";

/** Rich mail: To, Subject, and a formatted text. */
export function Post() {
  const to = useRef<HTMLInputElement>(null);
  const subject = useRef<HTMLInputElement>(null);
  const [mail, setMail] = useKept("post", { to: "skipper.marram@example.org", subject: "", letter: "" });
  const app = "post";
  useTypingControl(to, { place, app, name: "To", kind: "single-line" });
  useTypingControl(subject, { place, app, name: "Subject", kind: "single-line" });
  const editor = useEditor({
    content: mail.letter,
    extensions: [
      StarterKit,
      TextStyleKit,
      TextAlign.configure({ types: ["paragraph", "heading"] }),
      TableKit.configure({ table: { resizable: false } }),
      Image.configure({ inline: true }),
    ],
    editorProps: { attributes: { "aria-label": "Letter", role: "textbox", "aria-multiline": "true" } },
    onUpdate: ({ editor: changed }) => setMail((before) => ({ ...before, letter: changed.getHTML() })),
  });
  useTypingEditor(editor, { place, app, name: "Letter", kind: "rich" });
  return (
    <DeskWindow app="post">
      <div className="field-line">
        <label htmlFor="post-to">To</label>
        <input
          id="post-to"
          ref={to}
          defaultValue={mail.to}
          autoComplete="off"
          onChange={(event) => setMail((before) => ({ ...before, to: event.target.value }))}
        />
      </div>
      <div className="field-line">
        <label htmlFor="post-subject">Subject</label>
        <input
          id="post-subject"
          ref={subject}
          defaultValue={mail.subject}
          autoComplete="off"
          onChange={(event) => setMail((before) => ({ ...before, subject: event.target.value }))}
        />
      </div>
      <EditorContent editor={editor} className="letter" />
    </DeskWindow>
  );
}
