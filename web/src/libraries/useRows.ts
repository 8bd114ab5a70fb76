import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import type { Rows, TableRow, TableView } from "../api/client";
import { pagesOf } from "../ui/pages";
import { rowsQuery } from "./rowsQuery";

/** The part of the table that is asked for: some pages of rows around what is in sight. */
export interface RowWindow {
  total: number;
  /** How many snippets there are in all, or the filter leaves. */
  snippets: number;
  /** What of the filter could not be read. */
  problem: string | null;
  /** A row by its place; undefined while it is not here yet. */
  at: (index: number) => TableRow | undefined;
  /** The place of a row that is here; -1 when it is not. */
  placeOf: (id: number | undefined) => number;
  error: Error | null;
  opened: boolean;
}

/** The rows from one place to another, asked of the server page by page. */
export function useRows(view: TableView, first: number, last: number): RowWindow {
  const wanted = pagesOf(first, last);
  const answers = useQueries({
    queries: wanted.map((page) => ({
      ...rowsQuery(view, page),
      // Grades and overlaps come a little later than the rows.
      refetchInterval: ({ state }: { state: { data: Rows | undefined } }) =>
        state.data?.board === "working" ? 400 : (false as const),
    })),
  });
  // What was there stays until what is new has come: a row that goes and comes again would lose the focus.
  const [kept, setKept] = useState<readonly Rows[]>([]);
  const known = answers.map((answer) => answer.data).filter((data) => data !== undefined);
  const complete = known.length === wanted.length;
  if (complete && (known.length !== kept.length || known.some((data, place) => data !== kept[place]))) setKept(known);
  const shown = complete ? known : [...kept, ...known];
  const rows = new Map<number, TableRow>();
  for (const { from, rows: some } of shown) some.forEach((row, place) => rows.set(from + place, row));
  const some = known[0] ?? kept[0];
  return {
    total: some?.total ?? 0,
    snippets: some?.snippets ?? 0,
    problem: some?.problem ?? null,
    at: (index) => rows.get(index),
    placeOf: (id) => {
      for (const [place, row] of rows) if (row.id === id) return place;
      return -1;
    },
    error: answers.find((answer) => answer.error !== null)?.error ?? null,
    opened: shown.length > 0,
  };
}
