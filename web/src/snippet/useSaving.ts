import { useEffect, useState, useSyncExternalStore } from "react";
import type { SnippetAnswer } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";
import { toast } from "../ui/toasts";
import { idOfNew, letGo, saverOf, type SnippetSaver } from "./SnippetSaver";

/** A snippet has been saved. */
export const told = (id: number, answer: SnippetAnswer, said: string | undefined): void => {
  queryClient.setQueryData(keys.snippet(id), answer);
  if (said) toast(said, { seconds: 10 });
  void librariesChanged();
};

/** Keeps a snippet saved while its page is open, and after that until all is saved; a new one is made when there is something to save. */
export function useSaving(answer: SnippetAnswer): SnippetSaver {
  const [saver] = useState(() => saverOf(answer.id === 0 ? idOfNew() : answer.id, answer, told));
  useSyncExternalStore(saver.watch, () => saver.current);
  useSyncExternalStore(saver.watch, () => saver.state);
  useEffect(() => saver.arrive(answer), [saver, answer]);
  useEffect(() => () => letGo(saver), [saver]);
  return saver;
}
