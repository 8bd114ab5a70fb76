import type { Editor } from "@tiptap/core";
import { useEffect } from "react";
import { editorDriver } from "./editorDriver";
import type { FieldDescription } from "./hosting";
import { typingSession } from "./TypingSession";

/** Lets the engine listen to a TipTap editor while it is on the page. */
export function useTypingEditor(editor: Editor | null, { place, app, name, kind }: FieldDescription): void {
  useEffect(() => {
    if (!editor) return undefined;
    let detach: (() => void) | undefined;
    const leave = () => {
      detach?.();
      detach = undefined;
    };
    const attach = () => {
      leave();
      detach = typingSession.attach({ place, app, name, kind, driver: editorDriver(editor) });
    };
    if (isOnPage(editor)) attach();
    editor.on("mount", attach);
    editor.on("unmount", leave);
    return () => {
      editor.off("mount", attach);
      editor.off("unmount", leave);
      leave();
    };
  }, [editor, place, app, name, kind]);
}

/** An editor has no view until it is mounted, and says so by throwing. */
function isOnPage(editor: Editor): boolean {
  try {
    return editor.view.dom.isConnected;
  } catch {
    return false;
  }
}
