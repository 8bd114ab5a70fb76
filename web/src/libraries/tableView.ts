import { useCallback, useMemo, useState } from "react";
import type { TableView } from "../api/client";
import { useClosedRows } from "./closedRows";

/** The way a table is sorted: by a column and which end first; without one it is the tree. */
export interface Sorting {
  by: string | null;
  descending: boolean;
}

export const treeOrder: Sorting = { by: null, descending: false };

/** What comes of choosing a column's head: its order, then the other way round, then the tree again. */
export function sortedBy(sorting: Sorting, column: string): Sorting {
  if (sorting.by !== column) return { by: column, descending: startsDown.has(column) };
  return sorting.descending === startsDown.has(column) ? { by: column, descending: !sorting.descending } : treeOrder;
}

/** What one wants to see first of these is the most and the latest. */
const startsDown = new Set(["misfires", "overlaps", "changed", "last-used", "uses"]);

/** What is asked of the server; what is of no account is left out, so that the same is asked only once. */
export function viewOf(closed: readonly number[], filter: string, sorting: Sorting): TableView {
  const tree = filter.trim() === "" && sorting.by === null;
  return {
    closed: tree ? [...closed] : [],
    filter: filter.trim() === "" ? "" : filter,
    sort: sorting.by,
    descending: sorting.descending,
  };
}

/** What the table shows, and the ways to change it. */
export function useTableView() {
  const [closed, setOpen] = useClosedRows();
  const [filter, setFilter] = useState("");
  const [sorting, setSorting] = useState<Sorting>(treeOrder);
  const view = useMemo(() => viewOf(closed, filter, sorting), [closed, filter, sorting]);
  const sortBy = useCallback((column: string) => setSorting((before) => sortedBy(before, column)), []);
  return { view, sorting, sortBy, setOpen, filter, setFilter };
}
