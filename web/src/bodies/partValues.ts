import { useEffect, useSyncExternalStore } from "react";
import { api, unwrap } from "../api/client";

interface PartValue {
  text: string;
  problem: string | null;
}

const values = new Map<string, PartValue>();
const wanted = new Set<string>();
const listeners = new Set<() => void>();
let timer: ReturnType<typeof setTimeout> | undefined;

/** Asks for many parts in one request. */
function fetchSoon(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void fetchWanted(), 60);
}

async function fetchWanted(): Promise<void> {
  const parts = [...wanted].slice(0, 400);
  wanted.clear();
  if (parts.length === 0) return;
  try {
    const answers = await unwrap(api.POST("/api/preview/parts", { body: { parts } }));
    for (const [at, part] of parts.entries()) values.set(part, answers[at]!);
  } catch (error) {
    for (const part of parts) values.set(part, { text: "", problem: (error as Error).message });
  }
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** What a live part comes to now; undefined until it is known. */
export function usePartValue(html: string): PartValue | undefined {
  const value = useSyncExternalStore(subscribe, () => values.get(html));
  useEffect(() => {
    if (values.has(html)) return;
    wanted.add(html);
    fetchSoon();
  }, [html]);
  return value;
}
