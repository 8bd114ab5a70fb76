import { useEffect } from "react";
import { api, unwrap } from "../api/client";
import { librariesChanged, queryClient } from "../api/queries";
import { toast } from "../ui/toasts";

async function turn(
  work: () => Promise<{ what: string }>,
  said: (what: string) => string,
  again: () => void,
  label: string,
) {
  try {
    const { what } = await work();
    toast(said(what), { key: "undo", action: { label, act: again }, seconds: 6 });
  } catch (error) {
    toast((error as Error).message, { key: "undo", kind: "fault" });
  }
  await librariesChanged();
  await queryClient.invalidateQueries({ queryKey: ["snippet"] });
}

/** Undoes the last change. */
export const undo = (): Promise<void> =>
  turn(
    () => unwrap(api.POST("/api/changes/undo")),
    (what) => `Undone: ${what}`,
    () => void redo(),
    "Do it again",
  );

/** Does again what was undone last. */
export const redo = (): Promise<void> =>
  turn(
    () => unwrap(api.POST("/api/changes/redo")),
    (what) => `Done again: ${what}`,
    () => void undo(),
    "Undo",
  );

/** Undoes a change of the list, or does it again. */
export const setUndone = (id: number, back: boolean): Promise<void> =>
  back
    ? turn(
        () => unwrap(api.POST("/api/changes/{id}/undo", { params: { path: { id } } })),
        (what) => `Undone: ${what}`,
        () => void setUndone(id, false),
        "Do it again",
      )
    : turn(
        () => unwrap(api.POST("/api/changes/{id}/redo", { params: { path: { id } } })),
        (what) => `Done again: ${what}`,
        () => void setUndone(id, true),
        "Undo",
      );

/** Ctrl+Z and Ctrl+Shift+Z undo and do again what was changed, except in a field, which has its own. */
export function useUndoKeys(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!event.ctrlKey || event.altKey || event.metaKey || event.key.toLowerCase() !== "z") return;
      const target = event.target as HTMLElement;
      if (target.isContentEditable || target.matches("input:not([type=checkbox]), textarea, select")) return;
      event.preventDefault();
      void (event.shiftKey ? redo() : undo());
    };
    document.addEventListener("keydown", onKey);
    return () => document.removeEventListener("keydown", onKey);
  }, []);
}
