import { useEffect, useSyncExternalStore } from "react";
import type { SnippetAnswer } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";
import { letGo, saverOf, type SnippetSaver } from "./SnippetSaver";

const told = (id: number, answer: SnippetAnswer) => {
  queryClient.setQueryData(keys.snippet(id), answer);
  void librariesChanged();
};

/** Keeps a snippet saved while its page is open, and after that until all is saved. */
export function useSaving(answer: SnippetAnswer): SnippetSaver {
  const saver = saverOf(answer.id, answer, told);
  useSyncExternalStore(saver.watch, () => saver.current);
  useSyncExternalStore(saver.watch, () => saver.state);
  useEffect(() => saver.arrive(answer), [saver, answer]);
  useEffect(() => () => letGo(saver), [saver]);
  return saver;
}
