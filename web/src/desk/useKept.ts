import { useCallback, useEffect, useRef, useState } from "react";
import { readKept } from "../ui/browserStore";

const prefix = "dash-sprout.desk.";
const writeMs = 300;

/** A state of the desk that is still there after the page was left; written a moment after it last changed. */
export function useKept<T>(key: string, initial: T): [T, (next: T | ((before: T) => T)) => void] {
  const [value, setValue] = useState<T>(() => (readKept(prefix + key) as T | undefined) ?? initial);
  const latest = useRef(value);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const write = useCallback(() => {
    clearTimeout(timer.current);
    timer.current = undefined;
    localStorage.setItem(prefix + key, JSON.stringify(latest.current));
  }, [key]);

  const change = useCallback(
    (next: T | ((before: T) => T)) => {
      latest.current = next instanceof Function ? next(latest.current) : next;
      setValue(latest.current);
      timer.current ??= setTimeout(write, writeMs);
    },
    [write],
  );

  useEffect(() => {
    const flush = () => timer.current !== undefined && write();
    addEventListener("pagehide", flush);
    return () => {
      removeEventListener("pagehide", flush);
      flush();
    };
  }, [write]);

  return [value, change];
}
