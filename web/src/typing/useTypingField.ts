import type { Editor } from "@tiptap/core";
import { useEffect, type RefObject } from "react";
import { editorDriver } from "./editorDriver";
import { textControlDriver } from "./textControlDriver";
import { typingSession, type Field } from "./TypingSession";

type Description = Omit<Field, "driver">;

/** Lets the engine listen to an input or textarea. */
export function useTypingControl(
  ref: RefObject<HTMLInputElement | HTMLTextAreaElement | null>,
  { place, app, kind }: Description,
): void {
  useEffect(
    () =>
      ref.current ? typingSession.attach({ place, app, kind, driver: textControlDriver(ref.current) }) : undefined,
    [ref, place, app, kind],
  );
}

/** Lets the engine listen to a TipTap editor. */
export function useTypingEditor(editor: Editor | null, { place, app, kind }: Description): void {
  useEffect(
    () => (editor ? typingSession.attach({ place, app, kind, driver: editorDriver(editor) }) : undefined),
    [editor, place, app, kind],
  );
}
