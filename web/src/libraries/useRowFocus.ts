import { useEffect, useRef, useState } from "react";
import type { TableRow, TableView } from "../api/client";
import { fetchRows } from "./rowsQuery";
import type { RowWindow } from "./useRows";

const rowId = (id: number) => `row-${id}`;

/** Which row has the focus, and the way to give it to one that may not be drawn yet. */
export function useRowFocus(
  rows: RowWindow,
  bring: (at: number) => void,
  view: TableView,
  shown: number | undefined,
  onCurrent: (row: TableRow | undefined) => void,
) {
  const [current, setCurrent] = useState<number>();
  // A row that is to have the focus as soon as it is here.
  const wanted = useRef<{ at: number } | { id: number }>(undefined);
  const place = rows.placeOf(current);
  const focusedAt = place >= 0 ? place : 0;
  const focused = rows.at(focusedAt);
  useEffect(() => onCurrent(focused), [focused, onCurrent]);

  useEffect(() => {
    const wish = wanted.current;
    if (!wish) return;
    const row = "at" in wish ? rows.at(wish.at) : rows.at(rows.placeOf(wish.id));
    const element = row && document.getElementById(rowId(row.id));
    if (!element) return;
    wanted.current = undefined;
    element.focus({ preventScroll: true });
  });

  const focusAt = (index: number) => {
    if (rows.total === 0) return;
    const at = Math.min(Math.max(index, 0), rows.total - 1);
    wanted.current = { at };
    setCurrent(rows.at(at)?.id);
    bring(at);
  };

  useEffect(() => {
    if (shown === undefined) return;
    wanted.current = { id: shown };
    setCurrent(shown);
    void fetchRows(view, 0, 0, shown).then(({ foundAt }) => foundAt !== null && bring(foundAt));
    // Only what was made anew is shown; opening and closing rows is no reason to go back to it.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [shown]);

  /** A row that was worked on has the focus again: it may have moved, or its name field has gone. */
  const afterwards = async (work: Promise<unknown>, row: TableRow) => {
    await work;
    setCurrent(row.id);
    const element = document.getElementById(rowId(row.id));
    if (element) element.focus({ preventScroll: true });
    else wanted.current = { id: row.id };
  };

  /** Whoever presses a key is where they want to be. */
  const settle = () => {
    wanted.current = undefined;
  };

  return { focusedAt, setCurrent, focusAt, afterwards, settle };
}
