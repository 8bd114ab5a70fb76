import { readKept } from "../ui/browserStore";
import { useCallback, useState } from "react";

const key = "dash-sprout.closed-rows";

/** The libraries and folders whose contents are not shown. */
export function readClosedRows(): number[] {
  const kept = readKept(key);
  return Array.isArray(kept) ? kept.filter((id) => Number.isSafeInteger(id)) : [];
}

/** The libraries and folders whose contents are not shown, as the user left them. */
export function useClosedRows(): [readonly number[], (id: number, open: boolean) => void] {
  const [closed, setClosed] = useState<readonly number[]>(readClosedRows);
  const setOpen = useCallback((id: number, open: boolean) => {
    setClosed((before) => {
      const next = open ? before.filter((other) => other !== id) : [...before.filter((other) => other !== id), id];
      localStorage.setItem(key, JSON.stringify(next));
      return next;
    });
  }, []);
  return [closed, setOpen];
}
