import { useCallback, useEffect, useRef, useState } from "react";
import { ApiError, api, unwrap, type SnippetAnswer, type SnippetDocument } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";

export type SaveState =
  | { kind: "saved" }
  | { kind: "saving" }
  | { kind: "refused"; error: ApiError }
  | { kind: "conflict"; newer: SnippetAnswer };

const delayMs = 450;

/**
 * Keeps a snippet saved while it is edited. What is on the page is always the latest; a refused save keeps it there
 * with the reason, and a save over an older version asks which of the two to keep.
 */
export function useAutosave(loaded: SnippetAnswer) {
  const [draft, setDraft] = useState<SnippetDocument>(loaded.snippet);
  const [state, setState] = useState<SaveState>({ kind: "saved" });
  // Counts how often the draft was exchanged for another one, so that editors begin anew.
  const [generation, setGeneration] = useState(0);
  const latest = useRef(loaded.snippet);
  const version = useRef(loaded.version);
  const dirty = useRef(false);
  const running = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const { id } = loaded;

  const save = useCallback(async () => {
    clearTimeout(timer.current);
    if (running.current || !dirty.current) return;
    running.current = true;
    // What is typed during one save goes with the next.
    while (dirty.current) {
      dirty.current = false;
      setState({ kind: "saving" });
      try {
        const body = { version: version.current, snippet: latest.current };
        const saved = await unwrap(api.PUT("/api/snippets/{id}", { params: { path: { id } }, body }));
        version.current = saved.version;
        queryClient.setQueryData(keys.snippet(id), saved);
        if (!dirty.current) setState({ kind: "saved" });
        void librariesChanged();
      } catch (error) {
        if (!(error instanceof ApiError)) throw error;
        const { current } = error.problem;
        setState(current ? { kind: "conflict", newer: current } : { kind: "refused", error });
        if (current) break;
      }
    }
    running.current = false;
  }, [id]);

  const change = useCallback(
    (part: Partial<SnippetDocument>) => {
      latest.current = { ...latest.current, ...part };
      setDraft(latest.current);
      setState({ kind: "saving" });
      dirty.current = true;
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), delayMs);
    },
    [save],
  );

  /** Ends a conflict: keeps what is on this page, or takes the newer version. */
  const resolve = useCallback(
    (keep: "mine" | "newer", newer: SnippetAnswer) => {
      version.current = newer.version;
      if (keep === "newer") {
        latest.current = newer.snippet;
        setDraft(newer.snippet);
        setGeneration((before) => before + 1);
        dirty.current = false;
        setState({ kind: "saved" });
        return;
      }
      dirty.current = true;
      void save();
    },
    [save],
  );

  useEffect(() => {
    const leaving = (event: BeforeUnloadEvent) => {
      if (dirty.current || running.current) {
        void save();
        event.preventDefault();
      }
    };
    addEventListener("beforeunload", leaving);
    return () => {
      removeEventListener("beforeunload", leaving);
      void save();
    };
  }, [save]);

  return { draft, state, change, resolve, generation };
}
