import { useCallback, useState } from "react";
import { readKept } from "../ui/browserStore";

/** A column of the table. */
export interface Column {
  id: string;
  label: string;
  /** By what the table is sorted when its head is chosen; null when it cannot be. */
  sort: string | null;
  width: string;
  title?: string;
  /** Shown only when it was chosen. */
  optional?: true;
}

export const columns: readonly Column[] = [
  { id: "name", label: "Name", sort: "name", width: "minmax(190px, 1.1fr)" },
  { id: "set-off", label: "Set off by", sort: "trigger", width: "minmax(104px, 0.6fr)" },
  { id: "text", label: "What goes in", sort: "text", width: "minmax(140px, 1.8fr)" },
  {
    id: "rules",
    label: "Rules",
    sort: "rules",
    width: "minmax(120px, 0.9fr)",
    title: "Empty: after a closing key, either case, everywhere",
  },
  { id: "misfires", label: "Misfires", sort: "misfires", width: "92px", title: "Empty: quiet" },
  { id: "overlaps", label: "Overlaps", sort: "overlaps", width: "76px" },
  { id: "changed", label: "Changed", sort: "changed", width: "104px", optional: true },
  { id: "last-used", label: "Last used", sort: "last-used", width: "104px", optional: true },
  { id: "uses", label: "Uses", sort: "uses", width: "56px", optional: true },
  { id: "on", label: "On", sort: "on", width: "40px" },
];

export const optionalColumns = columns.filter((column) => column.optional);

export const columnsWith = (chosen: readonly string[]): Column[] =>
  columns.filter((column) => !column.optional || chosen.includes(column.id));

/** The widths of some columns, and of the one with the menu behind them. */
export const widthsOf = (shown: readonly Column[]): string =>
  [...shown.map((column) => column.width), "34px"].join(" ");

const key = "dash-sprout.columns";

/** The columns that were chosen, as the user left them. */
export function useColumns(): [readonly string[], (id: string) => void] {
  const [chosen, setChosen] = useState<readonly string[]>(() => {
    const kept = readKept(key);
    return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === "string") : [];
  });
  const toggle = useCallback((id: string) => {
    setChosen((before) => {
      const next = before.includes(id) ? before.filter((other) => other !== id) : [...before, id];
      localStorage.setItem(key, JSON.stringify(next));
      return next;
    });
  }, []);
  return [chosen, toggle];
}
